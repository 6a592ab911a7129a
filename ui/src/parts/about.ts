// What a field or a figure is, for who meets it first: what to do, what it is, and where it
// comes from. Readings of a formula and cautions have their own, from where they are worked out.

export interface About {
  /** What to do, in a sentence. */
  act: string
  /** What it is. */
  is: string
  /** How it is reckoned, or by which source. */
  by?: string
}

export const about = {
  use: {
    act: 'Say it as you do it: 1 tbsp, half a cup, one tab.',
    is: 'What is taken for one wash, one load or one wipe. Doses, costs and readings go by it.',
  },
  into: {
    act: 'Leave it empty for the usual water of your workshop.',
    is: 'How much water one use goes into. pH, strength and hardness are those of that water.',
    by: 'The usual waters stand in the settings.',
  },
  gives: {
    act: 'Say pieces, a volume or a weight: 24 tabs, 10 l.',
    is: 'What one making gives. Pieces are counted at the end, and each is worked out by it.',
  },
  lost: {
    act: 'Weigh the bowl before and after once, and put in what stays in it.',
    is: 'What sticks to bowls and tools, of all that goes in. What dries off is reckoned by itself.',
  },
  measuredPh: {
    act: 'Dip a strip into the ready good, as it is used, and type what it shows.',
    is: 'A pH that was measured counts before the one worked out, as widely as a strip or a meter reads.',
    by: 'A strip reads to half a step, a meter to a twentieth: from memory.',
  },
  hardness: {
    act: 'Your supplier prints it on the bill; a test strip reads it too. Any unit does.',
    is: 'The lime and magnesia in your water. They eat soap, and leave the white film.',
    by: 'Soft up to 60 mg/l of CaCO₃, medium to 120, hard to 180: limits of the US Geological Survey.',
  },
  drops: {
    act: 'Count the drops of your dropper into a millilitre, once.',
    is: 'How many of your drops make a millilitre. Scent and preservative are often said in drops.',
    by: 'Twenty, where nobody counted: the old apothecary’s drop (from memory).',
  },
  scoop: {
    act: 'Fill your scoop with water and weigh it: its grams are its millilitres.',
    is: 'What your own scoop holds, level.',
  },
  laundryWater: {
    act: 'Look into the papers of your machine, or leave the usual.',
    is: 'The water of one wash. Strength and hardness of a laundry good go by it.',
  },
  dishesWater: {
    act: 'Look into the papers of your machine, or leave the usual.',
    is: 'The water of the main wash of a dishwasher.',
  },
  scaleStep: {
    act: 'Read it off the scale: the smallest jump of its figures.',
    is: 'How finely the scale reads. Nothing is asked for that it cannot show.',
  },
  scaleMost: {
    act: 'Read it off the scale: “max”.',
    is: 'The most it bears. What is more is weighed in goes.',
  },
  range: {
    act: 'Weigh a cup of it once on the shelf, and the range closes.',
    is: 'What a scoop of it weighs, from loosely filled to packed. The figure is the likely one between.',
    by: 'The density of the material, poured and tapped; its source stands with it on the shelf.',
  },
  reorder: {
    act: 'Set it to what you use while a delivery is on its way.',
    is: 'When less than that is left, it stands under “What to buy”.',
  },
  strength: {
    act: 'Read it off the bag or its data sheet.',
    is: 'How much of it is the thing itself, by mass. What is left counts as water, or as filler.',
  },
  statements: {
    act: 'Copy the H codes from section 2 of its safety data sheet, with commas.',
    is: 'What it is classed as. Cautions and labels of all that holds it go by them.',
    by: 'Regulation (EC) 1272/2008 (CLP). Local codes and a licensed assessor decide.',
  },
  tare: {
    act: 'Put the empty jar with its lid on the scale.',
    is: 'What is taken off when a full jar is weighed.',
  },
  rest: {
    act: 'Leave it as your way has it.',
    is: 'How long what is drawn stands before it is used: it clears, and stops working.',
  },
  firstDraw: {
    act: 'Count from the first feeding.',
    is: 'How long the vat stands before anything is drawn from it.',
  },
  nominal: {
    act: 'Leave it empty to check against what the jars were packed with.',
    is: 'What the label says is in a jar. The mean may not lie under it.',
    by: 'Directive 76/211/EEC, Annex I. Local codes decide.',
  },
  toldUnderT1: {
    act: 'Fill those jars up.',
    is: 'Jars that lack more than the allowed shortfall: at most one in forty may. None may lack twice as much.',
    by: 'Directive 76/211/EEC, Annexes I and II. Local codes decide.',
  },
  thinned: {
    act: 'Say it as the card or the friend says it.',
    is: '1:5 is one part and five of water; 1 in 6 is the same, one part in six of the whole.',
  },
  ufi: {
    act: 'Leave it empty unless your authority gave you one.',
    is: 'A code that a poison centre knows the formula by, asked for in some regions of what is sold and harms.',
    by: 'Regulation (EC) 1272/2008 (CLP), Annex VIII. Local codes and a licensed assessor decide.',
  },
  margin: {
    act: 'Below nothing it costs more than it brings: raise the price, or make it cheaper.',
    is: 'What is left of the price after the jar is paid, as a share of the price. Mark-up is the same money as a share of the cost.',
    by: 'Margin = (price − cost) ÷ price.',
  },
  tenthDearer: {
    act: 'Look at the largest first: that material carries the cost.',
    is: 'By how much it costs more if this part gets a tenth dearer.',
  },
  yearLeft: {
    act: 'Ask whoever does your accounts: this is no bookkeeping.',
    is: 'What was brought less what those jars took in materials and packaging. Hands are not in it.',
  },
  yearOut: {
    act: 'Say what became of them, as soon as you know.',
    is: 'Jars that went with somebody and are neither paid for nor back.',
  },
  stallAsked: {
    act: 'Count the takings at home and hold both beside each other.',
    is: 'What the jars that were sold should have brought, at their prices.',
  },
  perKilo: {
    act: 'Compare packs by it: a large pack is not always the cheaper one.',
    is: 'What a kilogram came to. Open the material for a kilogram of what does the work.',
  },
  planStands: {
    act: 'Nothing is to be done then but to stir or to look.',
    is: 'How long it dries, steeps or ferments after the bench, as its steps or your own batches say.',
  },
  planHands: {
    act: 'Say after a batch how long your hands took, and the plan goes by it.',
    is: 'Minutes at the bench for one making: the middle of your batches, else what its steps come to.',
  },
  needWeek: {
    act: 'Switch on what you want made ahead without an order.',
    is: 'What usually goes in a week, and enough more that it seldom runs out. Seasons and gaps are in it.',
  },
  samplesElsewhere: {
    act: 'Should it have gone early: these are the jars to call back.',
    is: 'Jars of the same batch that are with somebody.',
  },
  toldUnderT2: {
    act: 'None of these may be sold: fill them up.',
    is: 'Jars that lack more than twice the allowed shortfall.',
    by: 'Directive 76/211/EEC, Annex I. Local codes decide.',
  },
  spread: {
    act: 'Fill more alike: then the mean may lie closer to what is told.',
    is: 'How far jars usually lie from their mean (one standard deviation).',
  },
  usualFigure: {
    act: 'Open it to go back to what is usual.',
    is: 'What the reading would be with the figure of the table, and what it is with yours.',
  },
} satisfies Record<string, About>

export type Topic = keyof typeof about

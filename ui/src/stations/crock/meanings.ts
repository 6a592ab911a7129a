import type { Schemas } from '../../api/client'

// What a reading says, for who meets it first: what to do about it, and what it is. The
// arithmetic and the sources stand below them.

type Chemistry = Schemas['Chemistry']

export interface Meaning {
  /** What to do, in a sentence. */
  act: string
  /** What it is. */
  is: string
}

export const costMeans: Meaning = {
  act: 'Dearer than you want? The table shows which line it is: swap that one, or use less at once.',
  is: 'What the materials of one use cost, at what you paid for them. Hands, jars and fire are not in it.',
}

export const weighsMeans: Meaning = {
  act: 'Weigh a cup of it once on the shelf, and the range closes.',
  is: 'What comes out, after what sticks and dries off. Cups are not grams: the range is what scooping does.',
}

export const keepsMeans: Meaning = {
  act: 'Write the date on the jar, and make no more than is used by then.',
  is: 'How long it is good from the day it is ready, closed, dry and cool. A jar keeps no longer than the oldest lot in it.',
}

export function phMeans(c: Chemistry): Meaning {
  const act =
    c.verdicts.ph === 'stop' || c.verdicts.ph === 'watch'
      ? 'Gloves and glasses, and say so on the label; or take less of what makes it so strong.'
      : 'Lime wants it below 4, grease above 9; wool and skin between 5 and 8.'
  return {
    act,
    is: 'How sour or alkaline it is at work: 7 is neither, and each step of one is ten times as strong.',
  }
}

export function strengthMeans(c: Chemistry): Meaning {
  return c.free_alkalinity_g_per_l_na2o < 0
    ? {
        act: 'Good against lime. If it is to wash or to lift grease, leave the acid for the rinse.',
        is: 'The acid that is left when it has used up all the soda.',
      }
    : {
        act: 'More washing soda gives more of it; acid in the same good takes it away.',
        is: 'The alkali that is left to lift grease and dirt when the acid has used up its share.',
      }
}

export function soapMeans(c: Chemistry): Meaning {
  switch (c.verdicts.soap) {
    case 'stop':
      return {
        act: 'Keep acid and soap in two bottles: soap first, acid for the rinse.',
        is: 'How much of the soap the acid turns back to fat, which cleans no more and clings to cloth.',
      }
    case 'watch':
      return {
        act:
          c.soap_curdled_by_good > c.limits.curdled_warn
            ? 'Less acid beside it, or two bottles: soap first, acid for the rinse.'
            : 'More soda or citrate, put in before the soap.',
        is: 'How much of the soap is lost: to the acid in it, or to the hardness of your water.',
      }
    default:
      return {
        act: 'Leave it as it is.',
        is: 'Whether the soap in it stays soap, in the bottle and at work.',
      }
  }
}

export function fizzMeans(c: Chemistry): Meaning {
  const more = { acid: 'More acid', soda: 'More soda', none: 'Acid and soda together' }[c.gas_limited_by]
  return {
    act: `${more} would fizz more. Keep it dry until it is used, and never closed while it is wet.`,
    is: 'How much gas a kilogram gives in water.',
  }
}

export function hardnessMeans(c: Chemistry): Meaning {
  return {
    act:
      c.verdicts.hardness === 'watch' || c.verdicts.hardness === 'stop'
        ? 'More soda or citrate, or a larger dose, takes care of the rest.'
        : 'Enough of it is taken care of.',
    is: 'The lime of your water that nothing in it takes care of: it eats soap and leaves a film.',
  }
}

export const lumpsMeans: Meaning = {
  act: 'Close the jar, and keep it in a drier room than that. Leave out what pulls it down most, where you can.',
  is: 'From this much damp in the air on it drinks water, and cakes.',
}

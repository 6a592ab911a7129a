package listener

import (
	"regexp"
	"strconv"
	"strings"
	"time"

	"github.com/shopspring/decimal"

	"keencrock/core/quantity"
)

// factKind is what a note on a delivery says beside what came.
type factKind uint8

const (
	aPrice factKind = iota
	aGift
	noPrice
	aDate    // best before
	received // the day it came
	aLotCode
	aSupplier
	aFreight // what bringing it cost
	aDiscount
	aHeading // the number of the invoice, “half price” beside a price
	aDeposit // what comes back with the empties
	wentBack // what follows did not come
	taxApart // the price is without the tax
	notHere  // what was said last is still to come
	sameSaid // as of the lot before
	someFree // some of what came were free
	paidLess // what was paid after something was taken off
	swapFor  // what follows was given for something else
)

// fact is one of them, from byte from to byte to.
type fact struct {
	from, to int
	kind     factKind
	price    priceSaid
	date     time.Time
	text     string
	several  bool // more than one code
	err      string
}

const monthWord = `jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?`

var (
	currencySign = `[€$£₹₦¥]|(?:A|US|CA|NZ)\$|\b(?:EUR|USD|GBP|INR|NGN|Rs)\b\.?`
	currencyWord = `eur|euros?|usd|us dollars?|dollars?|bucks|gbp|quid|pounds? sterling|pounds|sterling|inr|rupees?|rs|ngn|naira|aud|cad|chf|francs?|sek|nok|dkk|kronor|kroner|pln|cents?|pence|p`
	moneySign    = regexp.MustCompile(`(?i)^(?:` + currencySign + `)\s?\d{1,7}(?:[.,]\d{1,2})?(?:\s?(?:` + currencyWord + `)\b)?`)
	moneyNumber  = regexp.MustCompile(`(?i)^(\d{1,7}(?:[.,]\d{1,2})?)(\s?(?:` + currencySign + `)|\s?(?:` + currencyWord + `)\b)(?:\s?(?:and\s)?(\d{2})\b(?:\s?(?:cents?|p|pence|ct)\b)?)?`)
	poundsPence  = regexp.MustCompile(`(?i)^(\d{1,5}) ?pounds? (\d{2})\b`) // “8 pound 20”
	moneyDecimal = regexp.MustCompile(`^\d{1,7}[.,]\d{2}(?:$|[^\d.,]|[.,](?:$|[^\d.,]))`)
	noteNamed    = regexp.MustCompile(`(?i)^a (fiver|tenner)\b`)
	moneyMany    = regexp.MustCompile(`^(?:[€$£]\s?)?(?:\d{1,3}(?:,\d{3})+\.\d{2}|\d{1,3}(?:\.\d{3})+,\d{2})(?:\s?[€$£])?`)
	moneyGrand   = regexp.MustCompile(`(?i)^(?:(` + currencySign + `)\s?|(N))?(\d{1,3}(?:[.,]\d{3})+)(?:[.,](\d{2}))?(?:\s?(` + currencyWord + `|[€$£])(?:\W|$)|[^\d.,]|$|[.,](?:\D|$))`) // “₦12,500”, “12,500 naira”
	nairaSign    = regexp.MustCompile(`^N\s?\d{2,7}\b`)
	bartered     = regexp.MustCompile(`(?i)^(?:swapped|traded|bartered|exchanged|in exchange|in return)(?: it| them)? for\b[^,;.\n]*`)
	moneyDash    = regexp.MustCompile(`^(\d{1,7})(?:[.,][-–—]{1,2})`)
	afterMoney   = regexp.MustCompile(`(?i)^[ \t]*(?:,[ \t]*)?(?:(each|apiece|a piece|per piece|(?:a|per|the) (?:bag|box|pack|packet|bottle|jar|jug|bucket|canister|container|jerrycan|keg|sachet|roll|set|tub|tin|can|sack|carton|case|crate|bar|pouch|drum|go|pop|unit|piece|litre bottle|kilo bag)\b|ea\b|/\s?(?:bag|box|pack|packet|pc|piece|bottle|tin|tub|can|jar|jug|sack|bar|bucket|carton|case|pouch|drum|unit)\b)|((?:a|per|the|/|each)\s?(?:kilo|kg|kilogram|kilogramme|litre|liter|l|lb|pound|100\s?g|hundred grams|half kilo|ml|gram|g|10\s?ml)\b)|((?:for )?(?:the lot|all together|together|altogether|in all|in total|total|all in|for both|for the two|the two|(?:for )?the (?:three|four|five|six|eight|ten|dozen|twelve|twenty)|for all (?:of them|three|four)?|for everything|the pair|for the pair|both together)))`)
	eachAfter    = regexp.MustCompile(`(?i)^ (?:each|apiece|(?:a|per) (?:bag|box|pack|packet|bottle|jar|tub|tin|can|sack|carton|case|bar|pouch|drum|kilo|kg|litre|liter|pound))\b`)
	manyForFewer = regexp.MustCompile(`(?i)^(?:on )?\d for (?:the price of )?\d(?: offer| deal)\b`)
	sameAs       = regexp.MustCompile(`(?i)^(?:and )?(?:the )?same (date|best before|bb|bbe|expiry|use by|lot|batch|code|supplier|shop|place)(?: number| code| date| as (?:before|above|that))?\b`)
	manyFor      = regexp.MustCompile(`(?i)^(\d{1,2}|two|three|four|five|six|eight|ten|twelve) for `)
	priceBefore  = regexp.MustCompile(`(?i)^(?:was|down from|reduced from|instead of|rather than|normally|usually|list price)\s+(?:` + currencySign + `)?\s?\d{1,7}[.,]\d{2}(?:\s?(?:` + currencySign + `|` + currencyWord + `))?`)
	inEach       = regexp.MustCompile(`(?i)^ in (?:each|every|a|one)\b`) // “at 2.10, a kilo in each”
	priceCue     = regexp.MustCompile(`(?i)^(?:for|at|@|à|paid|pay|cost|costs|costing|cost me|price|priced at|was|came to|comes to|it was|that was|worth)\s*:?\s+`)
	freight      = regexp.MustCompile(`(?i)^[ \t]*(?:for )?(?:delivery|shipping|postage|carriage|freight|p\s?&\s?p|the post|surcharge|(?:pallet|handling|fuel|service|packing|small[ -]order|tail[ -]lift|courier) (?:sur)?charge)\b`)
	giftWords    = regexp.MustCompile(`(?i)^(?:(?:as )?a (?:free )?gift|(?:as )?a present|free of charge|for free|for nothing|no charge|no cost|gratis|cost (?:me |us )?nothing|costs nothing|at no cost|didn'?t cost (?:me |us )?(?:anything|a thing)|given (?:to (?:me|us))?|gave (?:me|us)|(?:i|we) (?:was|were) given|donated|gift|(?:as )?a (?:free )?sample|free sample|a freebie|freebie|free|on the house|left over from a neighbour)\b`)
	noPriceWords = regexp.MustCompile(`(?i)^(?:no price(?: yet| so far| known)?|price (?:unknown|not known(?: yet)?|to come|to follow|later|tbc|tba|missing)|without a price|invoice (?:to follow|to come|later)|bill (?:to follow|to come|later)|don'?t know (?:the price|what it cost)(?: yet)?|not (?:paid|billed|invoiced) yet|no invoice yet|price will follow)\b`)

	dateCue   = regexp.MustCompile(`(?i)^(?:best before(?: end)?(?: of)?|best by|best until|best till|best|bbe|bbd|bb|b\.b\.|use by|use before|expires?(?: on| in| at the end of)?|use within|use it within|expiry(?: date)?|exp\.?|good (?:until|till|to|for)|keeps? (?:until|till|to|for)|sell by|mhd|shelf life)\b\s*:?\s*`)
	dateISO   = regexp.MustCompile(`^(2\d{3})[-/.](\d{1,2})(?:[-/.](\d{1,2}))?\b`)
	dateDay   = regexp.MustCompile(`^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})\b`)
	dayHead   = regexp.MustCompile(`^(\d{1,2})(?:/|\.)(\d{1,2})(?:\s*:|\.\s*(?:\n|$))`)
	dayLine   = regexp.MustCompile(`^(\d{1,2})/(\d{1,2})\s+[A-Za-z]`)
	dayDots   = regexp.MustCompile(`^(\d{1,2})\.(\d{1,2})\.\s`)
	headName  = regexp.MustCompile(`(?:^|\n)[A-Z][A-Za-z'&-]*(?: [A-Z][A-Za-z'&-]*){0,3},? $`) // of a supplier, at the head of a line
	dayShort  = regexp.MustCompile(`^(\d{1,2})/(\d{1,2})(?:[^\d/.]|\.?$|\.\s)`)
	dateMonth = regexp.MustCompile(`^(\d{1,2})[./-](20\d{2}|\d{2})\b`)
	dateWords = regexp.MustCompile(`(?i)^(?:(?:the )?(end of|late|early|mid[- ]?|beginning of|start of|middle of)\s*)?(?:(?:the )?(\d{1,2})(?:st|nd|rd|th)?\s+(?:of\s+)?)?(` + monthWord + `)\b\.?(?:\s+(\d{1,2})(?:st|nd|rd|th)?\b(?:\s*,)?)?(?:\s*[,/-]?\s*(?:of\s+)?('?\d{2}|20\d{2})\b|\s+(next year|this year))?`)
	dateNext  = regexp.MustCompile(`(?i)^(?:(?:the )?end of )?next (` + monthWord + `|year)\b`)
	dateYear  = regexp.MustCompile(`(?i)^(?:(end|start|beginning|middle)? ?(?:of )?)(20\d{2})\b`)
	dateIn    = regexp.MustCompile(`(?i)^(?:in |within )?(a|an|one|two|three|four|five|six|nine|ten|twelve|eighteen|twenty[- ]four|\d{1,3})(?: and a half)? (day|week|month|year)s?(?: from (?:now|today)| on)?\b`)
	dayCame   = regexp.MustCompile(`(?i)^(?:(?:came|arrived|delivered|received|got it|bought|it came)\s+(?:on\s+)?)?(today|yesterday|this morning|the day before yesterday|(?:last |on )?(?:monday|tuesday|wednesday|thursday|friday|saturday|sunday))\b`)
	cameOn    = regexp.MustCompile(`(?i)^(?:(?:came|arrived|delivered|received|bought|dated)\s+(?:on\s+)?|on\s+)(?:the\s+)?`)

	ofThatDay  = regexp.MustCompile(`(?i)^'?s?[ \t]+(?:market|fair|boot sale|stall|club)\b`) // “…, Saturday market”: where, not when
	codeCue    = regexp.MustCompile(`(?i)^(?:(?:lots?|batch(?:es)?|charge|ch\.-?b\.?)\b\.?\s*(?:codes?\b|numbers?\b|no\b\.?|nr\b\.?|num\b|is\b|#|:)*\s*|#)([A-Za-z0-9][A-Za-z0-9./_-]*)`)
	codeDashed = regexp.MustCompile(`^[A-Z]{1,4}-\d{1,6}[A-Z]?\b`)
	// afterPriceEnd is what stands before a code that nothing announces.
	afterPriceEnd = regexp.MustCompile(`\d[.,]\d{2}(?: ?(?:€|£|EUR|GBP|USD))?[ ,;|\t]+$`)
	codeNumber    = regexp.MustCompile(`^(?:[Nn]umbers?|[Nn]o\.|[Nn]r\.?) ?:? ?([A-Z]{1,4}[-/]?\d[A-Za-z0-9/-]*)`)
	totalCue      = regexp.MustCompile(`(?i)^(?:in total|total|sum|altogether|all in all|all together|makes|the bill|bill|total price|comes to)\s*[:=]?\s+`)
	codeMore      = regexp.MustCompile(`^(?:\s*(?:,|and|&|/|\bto\b|–|until)+\s*)+([A-Za-z]{0,4}-?\d[A-Za-z0-9./_-]*)`)
	codeNext      = regexp.MustCompile(`^\s+([A-Z]{1,4}-?\d[A-Za-z0-9./_-]*)`)
	heading       = regexp.MustCompile(`(?i)^(?:invoice|inv|bill|receipt|order|delivery note|docket|slip|ref|reference|p\.?o\.?)\b\.?(?:\s*(?:no\b\.?|number\b|nr\b\.?|#))*\s*[A-Z]{0,4}[-/ ]?\d[A-Z0-9/-]*(?:\s*(?::|,|;|\n|$)|\s+(?:arrived|came|delivered|received|from)\b|\s+(?-i:[A-Z]))`)
	brought       = regexp.MustCompile(`(?i)^(?:delivery|carriage|postage|shipping|freight|p\s?&\s?p|courier|transport|surcharge|(?:pallet|handling|fuel|service|packing|small[ -]order|tail[ -]lift|courier) (?:sur)?charge)(?: (?:was|cost|costs|charge|of|for it|fee))*\s*[:=]?\s+`)
	codeEnd       = regexp.MustCompile(`^ \d{1,6}\b`)
	fromCue       = regexp.MustCompile(`(?i)^(?:from|off|ex|via|supplier|supplied by|bought at|bought from|got (?:it|them) (?:from|at)|ordered from|sent by|by)\b[ \t]*:?[ \t]+(?:the[ \t]+)?`)
	deposit       = regexp.MustCompile(`(?i)^\s*(?:for (?:the )?)?(?:deposit|refundable)\b`)
	deposits      = regexp.MustCompile(`(?i)^deposit(?: (?:was|is|of))?\s*[:=]?\s+`)
	offers        = regexp.MustCompile(`(?i)^(?:(?:at |for )?half[- ]price|on (?:special )?offer|on sale|(?:at )?(?:a )?(?:reduced|sale|special|discounted) price|special offer)\b`)
	// the tax that comes on top
	withoutTax = regexp.MustCompile(`(?i)^(?:(?:\+|plus|excl\.?|excluding|ex|before|without) ?(?:vat|tax|gst|mwst)\b\.?|(?:vat|tax|gst) extra\b|net of (?:vat|tax)\b)`)
	back       = regexp.MustCompile(`(?i)^(?:returned|sent back|took back|taken back|brought back|gave back|refunded|went back)\b`)
	notYetHere = regexp.MustCompile(`(?i)^(?:(?:is |are |was |were )?(?:still )?(?:not (?:yet )?in(?: yet| stock)?(?:$|[,;.\n]| [-–—])|not (?:yet )?(?:come|arrived|here|delivered|there)(?: yet)?\b|out of stock\b|on back[- ]?order\b|back[- ]?ordered\b|sold out\b|unavailable\b|still to come\b|to come later\b|(?:came |arrived )?(?:all )?(?:burst|broken|damaged|split|leaking|spoilt|smashed|torn)(?: open| in the post| in transit)?,? (?:and )?(?:so )?(?:it was |they were |was |were )?(?:credited|refunded|sent back|returned|thrown away|binned)\b))`)
	discount   = regexp.MustCompile(`(?i)^(?:(?:less|minus)\s+\d{1,2}(?:[.,]\d)?\s?(?:%|percent|per cent)|\d{1,2}(?:[.,]\d)?\s?(?:%|percent|per cent)\s+(?:off|discount|rebate)|(?:the )?(?:same|usual|old) price(?: as (?:last time|before|always|usual|ever))?)`)
)

var (
	// fewerPaid is an offer whose packs are not counted: “3 for 2: borax 500 g at 3.90”.
	fewerPaid = regexp.MustCompile(`(?i)^(?:on )?(?:[2-9]|two|three|four|five|six) for (?:the price of )?(?:[1-8]|one|two|three|four|five)\b(?:\s*[:,;]| on )`)
	// discounted ends where what is left to pay stands.
	discounted = regexp.MustCompile(`(?i)^(?:(?:less|minus|with)\s+(?:the\s+)?\d{1,2}(?:[.,]\d)?\s?(?:%|percent|per cent)(?: off| discount)?|\d{1,2}(?:[.,]\d)?\s?(?:%|percent|per cent)\s+(?:off|discount|rebate))\s*(?:=|,? (?:so|makes|leaves|that's|thats|comes to|came to|paid)(?: i paid| we paid| paid)?)\s*`)
	// onDay is a day without its month.
	onDay = regexp.MustCompile(`(?i)^(?:on |came |arrived |delivered )+the (\d{1,2})(?:st|nd|rd|th)(?:$|[ ]*[,;.:\n]| at\b| from\b)`)
	// paidTo is who was paid for what came.
	paidTo = regexp.MustCompile(`(?i)^(?:paid|owe|owed|gave|pay) (?:the |my )?([a-z][a-z'-]+(?: [A-Z][a-z'-]+){0,2}) (?:` + currencySign + `)?\s?\d{1,6}(?:[.,]\d{1,2})?(?:\s?(?:` + currencyWord + `))? for\b`)
	// allFor is what all of it cost.
	allFor = regexp.MustCompile(`(?i)^(?:all(?: (?:of (?:it|them)|three|four|five|six|together))?|the lot|everything|altogether|together) (?:for|at|was|came to|cost|costs) `)
	// broughtFree is what bringing it cost nothing.
	broughtFree = regexp.MustCompile(`(?i)^(?:delivered free|sent free|(?:with )?free (?:delivery|postage|shipping|carriage|p ?& ?p|post)|(?:post|postage|delivery|shipping|carriage) (?:was |is |paid and )?free|post free)\b`)
	// noDate says that no date stands on it.
	noDate = regexp.MustCompile(`(?i)^(?:exp\.?|expiry|expires|bb|bbe|best before|best by|use by)(?: date)?\s*:? (?:none|n/a|unknown|not (?:given|known|said|on it))\b`)
	// ofInvoice is what the day of a note stands behind.
	ofInvoice = regexp.MustCompile(`(?i)\b(?:invoice|order|delivery|bill|receipt|docket|note)(?: of| dated| from)? $`)
	// monthAhead begins with the name of a month.
	monthAhead = regexp.MustCompile(`(?i)^(?:` + monthWord + `)\b`)
	// cameShort is how many came of what was ordered: “8 of 10 kg salt”.
	cameShort = regexp.MustCompile(`(?i)(?:\bshort\b[^.;\n]*[:,] ?|\bonly )(\d{1,4}(?:[.,]\d{1,3})?) (?:out )?of (?:the )?\d{1,4}(?:[.,]\d{1,3})? `)
)

// monthNumbers are the months by their first three letters.
var monthNumbers = []string{"jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"}

// startsMonth reports whether a text begins with the name of a month.
func startsMonth(text string) bool {
	return monthAhead.MatchString(text)
}

// factsIn finds what a note says beside what came: prices, days, codes and suppliers, in
// the order they stand.
func factsIn(text string, o DeliveryOptions) []fact {
	var out []fact
	for i := 0; i < len(text); {
		if i > 0 && isWordByte(text[i-1]) && (isWordByte(text[i]) || text[i] == '.') {
			i++
			continue
		}
		f, ok := factAt(text, i, o)
		if !ok {
			i++
			continue
		}
		out = append(out, f)
		i = max(f.to, i+1)
	}
	return out
}

var (
	bartering = regexp.MustCompile(`(?i)^(?:swapped|traded|bartered|exchanged|swapping|trading) +(?:\d|a\b|some\b|half\b|[a-z])`)
	barterFor = regexp.MustCompile(`(?i)^for (?:\d+|a|an|some|two|three|four|five|six|ten|a dozen|half a)\b[^,;.\n]*`)
	barterEnd = regexp.MustCompile(`(?i)\b(?:swapped|traded|bartered|exchanged|swapping|trading) [^,;.\n]*$`)
	freeOnes  = regexp.MustCompile(`(?i)^(?:one|two|three|\d{1,2}|the (?:second|third|last)(?: one)?)(?: of (?:them|which|those))? (?:(?:is|are|was|were|came|for|thrown in) )?free\b`)
)

// withoutIt reports whether “free” stands in a name, “a sulfate free soap”, and gives nothing away.
func withoutIt(before, after string) bool {
	if before == "" || before[len(before)-1] == '-' {
		return before != ""
	}
	return len(before) > 1 && before[len(before)-1] == ' ' && isWordByte(before[len(before)-2]) && inName.MatchString(after)
}

// inName is a word that goes on with a name.
var inName = regexp.MustCompile(`(?i)^ (?:soap|surfactant|detergent|shampoo|base|wax|oil|salt|powder|liquid|bleach|starch|fragrance|glycerine|glycerin|soda|dye|blend|bars?|flakes?)\b`)

func isWordByte(b byte) bool {
	return b|0x20 >= 'a' && b|0x20 <= 'z' || isDigit(b) || b >= 0x80
}

// factAt finds the fact that begins at a byte.
func factAt(text string, i int, o DeliveryOptions) (fact, bool) {
	at := text[i:]
	switch c := at[0]; {
	case c == ' ' || c == '\n' || c == ',' || c == ';':
		return fact{}, false
	}
	if m := priceBefore.FindString(at); m != "" && (i > 0 && text[i-1] == '(' || !strings.EqualFold(m[:3], "was")) {
		return fact{from: i, to: i + len(m), kind: aHeading}, true
	}
	if m := bartering.FindStringIndex(at); m != nil && (i == 0 || !isWordByte(text[i-1])) && !bartered.MatchString(at) {
		return fact{from: i, to: i + strings.IndexByte(at, ' '), kind: swapFor}, true
	}
	if m := barterFor.FindString(at); m != "" && barterEnd.MatchString(text[max(0, i-120):i]) {
		return fact{from: i, to: i + len(strings.TrimRight(m, " ")), kind: noPrice}, true
	}
	if m := broughtFree.FindString(at); m != "" { // “delivered free” gives nothing away
		return fact{from: i, to: i + len(m), kind: aHeading}, true
	}
	if m := freeOnes.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: someFree, text: m}, true
	}
	if m := bartered.FindString(at); m != "" {
		return fact{from: i, to: i + len(strings.TrimRight(m, " ")), kind: noPrice}, true
	}
	if m := manyForFewer.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: aHeading}, true
	}
	if m := fewerPaid.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: someFree, text: m}, true
	}
	if m := sameAs.FindStringSubmatch(at); m != nil {
		return fact{from: i, to: i + len(m[0]), kind: sameSaid, text: strings.ToLower(m[1])}, true
	}
	if m := allFor.FindString(at); m != "" { // “…, all for 14.60”
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice && f.price.of == ofAll {
			f.from, f.price.unit = i, "together"
			return f, true
		}
	}
	if m := manyFor.FindStringSubmatch(at); m != nil { // “3 for 4.50”
		if f, ok := priceAt(text, i+len(m[0]), o); ok && f.kind == aPrice && f.price.of == ofAll {
			if n, length := wordNumber(m[1]); length > 0 && n.GreaterThan(decimal.NewFromInt(1)) {
				f.from, f.price.packs = i, int(n.IntPart())
				return f, true
			}
		}
	}
	if m := notYetHere.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: notHere}, true
	}
	if m := noPriceWords.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: noPrice}, true
	}
	if m := giftWords.FindString(at); m != "" && !strings.EqualFold(m, "given") && !(strings.EqualFold(m, "free") && withoutIt(text[:i], at[len(m):])) {
		return fact{from: i, to: i + len(m), kind: aGift}, true
	}
	if m := codeDashed.FindString(at); m != "" && afterPriceEnd.MatchString(text[max(0, i-longestMoney):i]) { // “… 19.50 CA-882”
		return fact{from: i, to: i + len(m), kind: aLotCode, text: m}, true
	}
	if m := codeNumber.FindStringSubmatchIndex(at); m != nil { // “a new lot of bicarb, number B-2210”
		return fact{from: i, to: i + m[3], kind: aLotCode, text: at[m[2]:m[3]]}, true
	}
	if m := codeCue.FindStringSubmatchIndex(at); m != nil {
		if code := strings.TrimRight(at[m[2]:m[3]], ".,/-"); looksLikeCode(code) {
			end := m[2] + len(code)
			if more := codeEnd.FindString(at[end:]); more != "" && !strings.ContainsAny(code, "0123456789") && !unitAfter(more[1:]+at[end+len(more):]) {
				code, end = code+more, end+len(more) // “KS 7”
			}
			f := fact{from: i, kind: aLotCode, text: code}
			cue := strings.ToLower(at[:m[2]])
			for strings.HasPrefix(cue, "lots") || strings.HasPrefix(cue, "batches") || strings.Contains(cue, "numbers") || strings.Contains(cue, "codes") { // “lots P1, P2 and P3”
				m := codeMore.FindStringSubmatch(at[end:])
				if m == nil {
					m = codeNext.FindStringSubmatch(at[end:])
				}
				if m == nil || unitAfter(m[1]+at[end+len(m[0]):]) {
					break
				}
				more := strings.TrimRight(m[1], ".,/-")
				end += len(m[0]) - len(m[1]) + len(more)
				if between := strings.TrimSpace(m[0][:len(m[0])-len(m[1])]); between == "to" || between == "–" { // “lots CA1 to CA4”
					f.text, f.several = f.text+" to "+more, true
					continue
				}
				f.text, f.several = f.text+", "+more, true
			}
			for f.text == code { // “lot SA-3 and SA-4”
				m := codeMore.FindStringSubmatch(at[end:])
				if m == nil || letters(m[1]) == "" || letters(m[1]) != letters(code) {
					break
				}
				more := strings.TrimRight(m[1], ".,/-")
				end += len(m[0]) - len(m[1]) + len(more)
				f.text, f.several = f.text+", "+more, true
			}
			f.to = i + end
			return f, true
		}
	}
	if m := noDate.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: aHeading}, true
	}
	if m := dateCue.FindString(at); m != "" {
		if day, n, err := dateAt(at[len(m):], o.Today, true); n > 0 {
			return fact{from: i, to: i + len(m) + n, kind: aDate, date: day, err: err}, true
		}
		if word := nextWord(at[len(m):]); word != "" && strings.HasPrefix(strings.ToLower(m), "best ") || strings.HasPrefix(strings.ToLower(m), "bb") || strings.HasPrefix(strings.ToLower(m), "use by") {
			return fact{from: i, to: i + len(m) + len(word), kind: aDate, err: "The date “" + word + "” cannot be read: expected 2027-06 or 2027-06-30."}, true
		}
	}
	if m := dayCame.FindStringSubmatch(at); m != nil && !ofThatDay.MatchString(at[len(m[0]):]) {
		if day, ok := dayNamed(strings.ToLower(m[1]), o.Today); ok {
			return fact{from: i, to: i + len(m[0]), kind: received, date: day}, true
		}
	}
	if m := dateWords.FindStringSubmatch(at); m != nil && m[2] != "" { // “3 June”, of the day it came
		if day, n, err := dateAt(at, o.Today, false); n > 0 && err == "" {
			kind := received
			if m[5] != "" && day.After(o.Today.AddDate(0, 0, daysAhead)) { // “30 June 2028”
				kind = aDate
			}
			return fact{from: i, to: i + n, kind: kind, date: day}, true
		}
	}
	if m := heading.FindString(at); m != "" && !dayHead.MatchString(at[strings.LastIndexByte(strings.TrimRight(m, " \n"), ' ')+1:]) { // “invoice 30/10: …” tells a day
		for _, verb := range [...]string{"arrived", "came", "delivered", "received"} { // “Order 4471 arrived 12 Nov”
			m = strings.TrimSuffix(strings.TrimSuffix(m, verb), " ")
		}
		if n := len(m); m[n-1] >= 'A' && m[n-1] <= 'Z' && m[n-2] == ' ' { // “Invoice 2291 Quayside”
			m = m[:n-1]
		}
		return fact{from: i, to: i + len(strings.TrimRight(m, ":,;\n ")), kind: aHeading}, true
	}
	if m := offers.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: aHeading}, true
	}
	if m := back.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: wentBack}, true
	}
	if m := withoutTax.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: taxApart}, true
	}
	if m := deposits.FindString(at); m != "" {
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice {
			return fact{from: i, to: f.to, kind: aDeposit, price: f.price}, true
		}
	}
	if m := discounted.FindString(at); m != "" { // “5.95 each, minus 10% = 21.42”
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice && f.price.of == ofAll {
			return fact{from: i, to: f.to, kind: paidLess, price: f.price}, true
		}
	}
	if m := discount.FindString(at); m != "" {
		return fact{from: i, to: i + len(m), kind: aDiscount, text: m}, true
	}
	if m := brought.FindString(at); m != "" {
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice && f.price.of == ofAll {
			return fact{from: i, to: f.to, kind: aFreight, price: f.price}, true
		}
		if value, n := numberAfterCue(at[len(m):]); n > 0 && !unitAfter(at[len(m)+n:]) && !startsMonth(strings.TrimLeft(at[len(m)+n:], " ")) { // “delivery four fifty”, and not “delivery 28 Nov”
			return fact{from: i, to: i + len(m) + n, kind: aFreight, price: priceSaid{amount: value, currency: o.Currency}}, true
		}
	}
	if m := totalCue.FindString(at); m != "" {
		if f, ok := priceAt(text, i+len(m), o); ok && f.kind == aPrice && f.price.of == ofAll {
			f.from, f.price.unit = i, "sum"
			return f, true
		}
	}
	if m := onDay.FindStringSubmatch(at); m != nil { // “on the 12th”
		if day, ok := dayOfMonth(m[1], o.Today); ok {
			return fact{from: i, to: i + len(strings.TrimRight(m[0], " ,;.:\n")), kind: received, date: day}, true
		}
	}
	if m := paidTo.FindStringSubmatchIndex(at); m != nil { // “paid the beekeeper 24 for …”
		if f, ok := priceAt(text, i+m[3]+1, o); ok && f.kind == aPrice {
			return fact{from: i, to: f.to, kind: aSupplier, text: at[m[2]:m[3]], price: f.price}, true
		}
		if value, n := numberAfterCue(at[m[3]+1:]); n > 0 {
			return fact{from: i, to: i + m[3] + 1 + n, kind: aSupplier, text: at[m[2]:m[3]], price: priceSaid{amount: value, currency: o.Currency}}, true
		}
	}
	if m := cameOn.FindString(at); m != "" {
		if day, n, err := dateAt(at[len(m):], o.Today, false); n > 0 && err == "" {
			return fact{from: i, to: i + len(m) + n, kind: received, date: day}, true
		}
		if short := dayShort.FindStringSubmatch(at[len(m):]); short != nil { // “on 24/11”
			if day, ok := dayOfThisYear(short, o.Today); ok {
				return fact{from: i, to: i + len(m) + len(short[1]) + 1 + len(short[2]), kind: received, date: day}, true
			}
		}
	}
	if m := fromCue.FindString(at); m != "" && !strings.HasSuffix(strings.ToLower(text[:i]), "away ") { // “keep away from heat”
		if name, n := supplierAt(at[len(m):], o); name != "" {
			return fact{from: i, to: i + len(m) + n, kind: aSupplier, text: name}, true
		}
	}
	for _, s := range o.Suppliers {
		if len(s) > 2 && len(at) >= len(s) && strings.EqualFold(at[:len(s)], s) && (len(at) == len(s) || !isWordByte(at[len(s)])) {
			return fact{from: i, to: i + len(s), kind: aSupplier, text: s}, true
		}
	}
	if m := dateISO.FindStringSubmatch(at); m != nil && isDigit(at[0]) {
		if day, n, err := dateAt(at, o.Today, true); n > 0 {
			kind := aDate
			if m[3] != "" && err == "" && !day.After(o.Today.AddDate(0, 0, daysAhead)) { // of the note itself
				kind = received
			}
			return fact{from: i, to: i + n, kind: kind, date: day, err: err}, true
		}
	}
	if m := dateMonth.FindStringSubmatch(at); m != nil && len(m[2]) == 4 && !dateDay.MatchString(at) {
		if day, n, err := dateAt(at, o.Today, true); n > 0 && err == "" {
			return fact{from: i, to: i + n, kind: aDate, date: day}, true
		}
	}
	if m := dateDay.FindString(at); m != "" {
		if day, n, err := dateAt(at, o.Today, true); n > 0 && err == "" {
			kind := aDate
			if !day.After(o.Today.AddDate(0, 0, daysAhead)) { // of the note itself
				kind = received
			}
			return fact{from: i, to: i + n, kind: kind, date: day}, true
		}
	}
	if m := dayHead.FindStringSubmatch(at); m != nil && (i == 0 || strings.TrimRight(text[:i], " ") == "" || strings.HasSuffix(strings.TrimRight(text[:i], " "), ",") || text[i-1] == '\n' || ofInvoice.MatchString(text[:i])) { // “Quayside, 28/11: …”, “Quayside invoice 28/11: …”
		if day, ok := dayOfThisYear(m, o.Today); ok {
			return fact{from: i, to: i + len(m[1]) + 1 + len(m[2]), kind: received, date: day}, true
		}
	}
	if m := dayLine.FindStringSubmatch(at); m != nil && (i == 0 || text[i-1] == '\n') && !unitAfter(at[len(m[1])+1:]) { // “12/11 soda ash 10 kg”
		if day, ok := dayOfThisYear(m, o.Today); ok {
			return fact{from: i, to: i + len(m[1]) + 1 + len(m[2]), kind: received, date: day}, true
		}
	}
	if m := dayDots.FindStringSubmatch(at); m != nil && headName.MatchString(text[:i]) { // “Quayside 28.11. citric acid …”
		if day, ok := dayOfThisYear(m, o.Today); ok {
			return fact{from: i, to: i + len(m[1]) + 1 + len(m[2]), kind: received, date: day}, true
		}
	}
	return priceAt(text, i, o)
}

// dayOfThisYear is a day said without its year, as a day and a month: the last one there was.
func dayOfThisYear(said []string, today time.Time) (time.Time, bool) {
	day, n, err := dateAt(said[1]+"/"+said[2]+"/"+strconv.Itoa(today.Year()), today, false)
	if n == 0 || err != "" {
		return day, false
	}
	if day.After(today.AddDate(0, 0, daysAhead)) {
		day = day.AddDate(-1, 0, 0)
	}
	return day, true
}

// dayOfMonth is the last such day there was.
func dayOfMonth(said string, today time.Time) (time.Time, bool) {
	n, err := strconv.Atoi(said)
	if err != nil || n < 1 || n > 31 {
		return time.Time{}, false
	}
	for back := range 3 {
		first := time.Date(today.Year(), today.Month()-time.Month(back), 1, 0, 0, 0, 0, today.Location())
		if day := first.AddDate(0, 0, n-1); day.Month() == first.Month() && !day.After(today) {
			return day, true
		}
	}
	return time.Time{}, false
}

// letters are those that a code begins with.
func letters(code string) string {
	return code[:len(code)-len(strings.TrimLeft(code, "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz"))]
}

// looksLikeCode reports whether a word may be a code: it has a digit, or is in capitals.
func looksLikeCode(s string) bool {
	if strings.ContainsAny(s, "0123456789") {
		return true
	}
	return s != "" && s == strings.ToUpper(s) && len(s) <= 12
}

func nextWord(s string) string {
	end := strings.IndexAny(s, " ,;\n")
	if end < 0 {
		end = len(s)
	}
	return s[:end]
}

// daysAhead is how far ahead a day without a year may lie that something came on: a note
// may be dated a little ahead, or the clock be behind.
const daysAhead = 7

// longestMoney is how long a price is at the most, in bytes.
const longestMoney = 24

// longestSupplier is how many words a supplier's name has at the most.
const longestSupplier = 5

// supplierAt reads a supplier's name: known ones whole, others up to what is certain to be
// something else.
func supplierAt(s string, o DeliveryOptions) (name string, n int) {
	for _, known := range o.Suppliers {
		if len(known) > 1 && len(s) >= len(known) && strings.EqualFold(s[:len(known)], known) && (len(s) == len(known) || !isWordByte(s[len(known)])) {
			return known, len(known)
		}
	}
	words, end := 0, 0
	for i := 0; i < len(s) && words < longestSupplier; {
		for i < len(s) && s[i] == ' ' {
			i++
		}
		if i >= len(s) || strings.ContainsRune(",;:\n()", rune(s[i])) {
			break
		}
		next := i
		for next < len(s) && !strings.ContainsRune(" ,;:\n()", rune(s[next])) {
			next++
		}
		word := s[i:next]
		low := strings.ToLower(strings.Trim(word, ".'"))
		if words > 0 && supplierEnds(low, s[i:], o) || words == 0 && supplierEnds(low, s[i:], o) && low != "the" {
			break
		}
		words++
		end = next
		i = next
		if strings.HasSuffix(word, ".") && len(word) > 3 {
			break
		}
	}
	name = strings.TrimRight(strings.TrimSpace(s[:end]), ".")
	return name, len(strings.TrimRight(s[:end], " ."))
}

// endsSupplier are words that are no part of a supplier's name.
var endsSupplier = wordSet("endsSupplier")

// supplierEnds reports whether a word is no part of a supplier's name.
func supplierEnds(low, rest string, o DeliveryOptions) bool {
	switch {
	case endsSupplier[low]:
		return true
	case low == "and" || low == "plus" || low == "&" || low == "then":
		after := strings.TrimLeft(rest[len(low):], " ")
		first, _, _ := strings.Cut(after, " ")
		if r, ok := quantity.ReadSaid(after); ok && !r.Amount.IsZero() && quantity.MayBegin(strings.ToLower(first)) || after == "" || first != "" && isDigit(first[0]) {
			return true
		}
		return false
	}
	if low == "" {
		return true
	}
	if isDigit(low[0]) || strings.ContainsAny(low, "€$£₹#") {
		return true
	}
	if p, ok := priceAt(rest, 0, o); ok && p.to > 0 {
		return true
	}
	return false
}

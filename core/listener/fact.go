package listener

import (
	"regexp"
	"strconv"
	"strings"
	"time"

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
	sameAs       = regexp.MustCompile(`(?i)^(?:and )?(?:the )?same (price|date|best before|bb|bbe|expiry|use by|lot|batch|code|supplier|shop|place)(?: number| code| date| as (?:before|above|that))?\b`)
	manyFor      = regexp.MustCompile(`(?i)^(\d{1,2}|two|three|four|five|six|eight|ten|twelve) for `)
	priceBefore  = regexp.MustCompile(`(?i)^(?:was|down from|reduced from|instead of|rather than|normally|usually|list price)\s+(?:` + currencySign + `)?\s?\d{1,7}[.,]\d{2}(?:\s?(?:` + currencySign + `|` + currencyWord + `))?`)
	inEach       = regexp.MustCompile(`(?i)^ in (?:each|every|a|one)\b`) // “at 2.10, a kilo in each”
	priceCue     = regexp.MustCompile(`(?i)^(?:for|at|@|à|paid|pay|cost|costs|costing|cost me|price|priced at|was|came to|comes to|it was|that was|worth)\s*:?\s+`)
	freight      = regexp.MustCompile(`(?i)^[ \t]*(?:for )?(?:delivery|shipping|postage|carriage|freight|p\s?&\s?p|(?:the )?post\b|surcharge|(?:pallet|handling|fuel|service|packing|small[ -]order|tail[ -]lift|courier) (?:sur)?charge)\b`)
	giftWords    = regexp.MustCompile(`(?i)^(?:(?:as )?a (?:free )?gift|(?:as )?a present|free of charge|for free|for nothing|no charge|no cost|gratis|cost (?:me |us )?nothing|costs nothing|at no cost|didn'?t cost (?:me |us )?(?:anything|a thing)|given (?:to (?:me|us))?|gave (?:me|us)|(?:i|we) (?:was|were) given|donated|gift|(?:as )?a (?:free )?sample|free sample|a freebie|freebie|free|on the house|left over from a neighbour)\b`)
	noPriceWords = regexp.MustCompile(`(?i)^(?:no price(?: yet| so far| known)?|price (?:unknown|not known(?: yet)?|to come|to follow|later|tbc|tba|missing)|without a price|invoice (?:to follow|to come|later)|bill (?:to follow|to come|later)|don'?t know (?:the price|what it cost)(?: yet)?|not (?:paid|billed|invoiced) yet|no invoice yet|price will follow)\b`)

	dateCue       = regexp.MustCompile(`(?i)^(?:best before(?: end)?(?: of)?|best by|best until|best till|best|bbe|bbd|bb|b\.b\.|use by|use before|expires?(?: on| in| at the end of)?|use within|use it within|expiry(?: date)?|exp\.?|good (?:until|till|to|for)|keeps? (?:until|till|to|for)|sell by|mhd|shelf life)\b\s*:?\s*`)
	dateISO       = regexp.MustCompile(`^(2\d{3})[-/.](\d{1,2})(?:[-/.](\d{1,2}))?\b`)
	dateDay       = regexp.MustCompile(`^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})\b`)
	namesAlone    = regexp.MustCompile(`(?:^|\n)\p{Lu}[\p{L}'’&]*(?: \p{Lu}[\p{L}'’&]*)* $`)
	dayHead       = regexp.MustCompile(`^(\d{1,2})(?:/|\.)(\d{1,2})(?:\.?\s*:|\.\s*(?:\n|$))`)
	dayLine       = regexp.MustCompile(`^(\d{1,2})/(\d{1,2})\s+[A-Za-z]`)
	dayDots       = regexp.MustCompile(`^(\d{1,2})\.(\d{1,2})\.\s`)
	headName      = regexp.MustCompile(`(?:^|\n)[A-Z][A-Za-z'&-]*(?: [A-Z][A-Za-z'&-]*){0,3},? $`) // of a supplier, at the head of a line
	dayShort      = regexp.MustCompile(`^(\d{1,2})/(\d{1,2})(?:[^\d/.]|\.?$|\.\s)`)
	dateMonth     = regexp.MustCompile(`^(\d{1,2})(?:[./-](20\d{2}|\d{2})| (20\d{2}))\b`)
	dateWords     = regexp.MustCompile(`(?i)^(?:(?:the )?(end of|late|early|mid[- ]?|beginning of|start of|middle of)\s*)?(?:(?:the )?(\d{1,2})(?:st|nd|rd|th)?\s+(?:of\s+)?)?(` + monthWord + `)\b\.?(?:\s+(\d{1,2})(?:st|nd|rd|th)?\b(?:\s*,)?)?(?:\s*[,/-]?\s*(?:of\s+)?('?\d{2}|20\d{2})\b|\s+(next year|this year))?`)
	dateNext      = regexp.MustCompile(`(?i)^(?:(?:the )?end of )?next (` + monthWord + `|year)\b`)
	dateYear      = regexp.MustCompile(`(?i)^(?:(end|start|beginning|middle)? ?(?:of )?)(20\d{2})\b`)
	dateShortYear = regexp.MustCompile(`(?i)^(?:the )?(end|start|beginning|middle) of ('?[23]\d)\b`)
	dateIn        = regexp.MustCompile(`(?i)^(?:in |within )?(a|an|one|two|three|four|five|six|nine|ten|twelve|eighteen|twenty[- ]four|\d{1,3})(?: and a half)? (day|week|month|year)s?(?: from (?:now|today)| on)?\b`)
	dayCame       = regexp.MustCompile(`(?i)^(?:(?:came|arrived|delivered|received|got it|bought|it came)\s+(?:on\s+)?)?(today|yesterday|this morning|the day before yesterday|(?:last |on )?(?:monday|tuesday|wednesday|thursday|friday|saturday|sunday))\b`)
	cameOn        = regexp.MustCompile(`(?i)^(?:(?:came|arrived|delivered|received|bought|dated)\s+(?:on\s+)?|on\s+)(?:the\s+)?`)

	ofThatDay  = regexp.MustCompile(`(?i)^'?s?[ \t]+(?:market|fair|boot sale|stall|club)\b`) // “…, Saturday market”: where, not when
	codeCue    = regexp.MustCompile(`(?i)^(?:(?:lots?|batch(?:es)?|charge|ch\.-?b\.?)\b\.?\s*(?:codes?\b|numbers?\b|no\b\.?|nr\b\.?|num\b|is\b|(?:on|printed on) (?:it|them|the (?:bag|box|pack|label|bottle|tub|tin|sack|lid)s?) (?:says?|is|reads?)\b|says?\b|reads?\b|#|:)*\s*|#)([A-Za-z0-9][A-Za-z0-9./_-]*)`)
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
	offers        = regexp.MustCompile(`(?i)^(?:\((?:was|rrp|reduced from|down from)\s*[€£$]?\s*\d[\d.,]*\)|(?:(?:at |for )?half[- ]price|on (?:special )?offer|on sale|(?:at )?(?:a )?(?:reduced|sale|special|discounted) price|special offer)\b)`)
	// the tax that comes on top
	withoutTax = regexp.MustCompile(`(?i)^(?:(?:\+|plus|excl\.?|excluding|ex|before|without) ?(?:vat|tax|gst|mwst)\b\.?|(?:vat|tax|gst) extra\b|net of (?:vat|tax)\b)`)
	back       = regexp.MustCompile(`(?i)^(?:returned|sent back|took back|taken back|brought back|gave back|refunded|went back)\b`)
	notYetHere = regexp.MustCompile(`(?i)^(?:(?:is |are |was |were )?(?:still )?(?:not (?:yet )?in(?: yet| stock)?(?:$|[,;.\n]| [-–—])|not (?:yet )?(?:come|arrived|here|delivered|there)(?: yet)?\b|out of stock\b|on back[- ]?order\b|back[- ]?ordered\b|sold out\b|unavailable\b|still to come\b|to come later\b|(?:came |arrived )?(?:all )?(?:burst|broken|damaged|split|leaking|spoilt|smashed|torn)(?: open| in the post| in transit)?,? (?:and )?(?:so )?(?:it was |they were |was |were )?(?:credited|refunded|sent back|returned|thrown away|binned)\b))`)
	discount   = regexp.MustCompile(`(?i)^(?:(?:less|minus)\s+(?:\d{1,2}(?:[.,]\d)?|five|ten|fifteen|twenty|twenty[- ]five)\s?(?:%|percent|per cent)|\d{1,2}(?:[.,]\d)?\s?(?:%|percent|per cent)\s+(?:off|discount|rebate)|(?:the )?(?:same price as (?:last time|always|usual|ever)|(?:usual|old) price(?: as (?:last time|before|always|usual|ever))?))`)
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
		if words > 0 && supplierEnds(low, s[i:], o) && !(low == "free" && strings.HasSuffix(strings.ToLower(s[:end]), "duty")) || words == 0 && supplierEnds(low, s[i:], o) && low != "the" {
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

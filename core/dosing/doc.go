// Package dosing says how much of a good to use: in which machine, in which water,
// for how much dirt; and how to thin what is kept strong.
//
// # Doses
//
// A dose is the smallest measure a hand can scoop that meets the purpose of a good in
// its water. What is wanted of a wash is told in Wanted: free alkalinity, hardness
// left at most, soap that is still soap, a pH. Which of them count follows from what
// is in the good: nothing is asked of a good that cannot give it. Where no dose
// within reach meets them, the water is softened with soda first, and the table says
// with how much.
//
// # Dilutions
//
// A dilution is the share of a good in what is used, however it was said: 1:5, 1 in 6,
// one part to four, ¼ cup to a quart, 5 %, 20 drops to 500 ml.
package dosing

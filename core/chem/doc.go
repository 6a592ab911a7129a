// Package chem holds the chemistry of the job: formulas and molar masses.
package chem

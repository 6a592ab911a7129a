package store

// OwnedTables are what DeleteWorkshop empties.
var OwnedTables = ownedTables

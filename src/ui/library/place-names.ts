/** Places of a small harbour town, for projects that have no name yet. */
export const PLACE_NAMES = [
  ...["Ferry Steps", "Net Loft", "Salt Stairs", "Lamp Room", "Capstan Yard", "Oyster Bank"],
  ...["Herring Gate", "Shingle End", "Lock House", "Pilot Walk", "Mooring Nine", "Cooper's Row"],
  ...["Tar Lane", "Weather Wall", "Sail Attic", "Ebb Street", "Chandler's Court", "Dry Dock"],
] as const;

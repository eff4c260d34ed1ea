/** The species that the tree office plants, with how long they usually live. One that stands in its streets is missing. */

export const SPECIES_COLUMNS = ['Species', 'Leaf group', 'Usual life (years)']

export const SPECIES: readonly (readonly [name: string, leafGroup: string, life: number])[] = [
  ['Common lime', 'broad leaf, large', 200],
  ['London plane', 'broad leaf, large', 250],
  ['Norway maple', 'broad leaf, large', 120],
  ['Common ash', 'broad leaf, large', 150],
  ['Horse chestnut', 'broad leaf, large', 150],
  ['Silver birch', 'broad leaf, small', 80],
  ['Hornbeam', 'broad leaf, small', 150],
  ['Field maple', 'broad leaf, small', 120],
  ['Wild cherry', 'broad leaf, small', 70],
  ['Rowan', 'broad leaf, small', 70],
  ['Whitebeam', 'broad leaf, small', 80],
  ['Sycamore', 'broad leaf, large', 180],
  ['Pedunculate oak', 'broad leaf, large', 400],
  ['Sessile oak', 'broad leaf, large', 400],
  ['Turkish hazel', 'broad leaf, small', 120],
  ['Sweet gum', 'broad leaf, large', 130],
  ['Ginkgo', 'fan or needle', 300],
  ['Small-leaved lime', 'broad leaf, small', 220],
  ['Black poplar', 'broad leaf, large', 120],
  ['Crab apple', 'broad leaf, small', 60],
  ['Foxglove tree', 'broad leaf, large', 60],
  ['Tulip tree', 'broad leaf, large', 180],
  ['Dawn redwood', 'fan or needle', 150],
  ['Swamp cypress', 'fan or needle', 200],
]

export function* species(): Generator<string[]> {
  for (const [name, leafGroup, life] of SPECIES) yield [name, leafGroup, String(life)]
}

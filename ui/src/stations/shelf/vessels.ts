/** What a material stands in on the shelf, by its form: drawn in 84 by 84. */
export interface Vessel {
  /** The wall, which is the inside too. */
  wall: string
  lid: string
  /** Where the inside begins; it ends at 76. */
  top: number
}

const jar: Vessel = {
  wall: 'M22 12h40l-2 8c8 6 10 14 10 24v24c0 6-3 8-8 8H22c-5 0-8-2-8-8V44c0-10 2-18 10-24z',
  lid: 'M20 8h44v6H20z',
  top: 14,
}
const caddy: Vessel = {
  wall: 'M22 14h40v6h8c3 0 4 2 4 4v48c0 3-2 4-4 4H14c-3 0-4-2-4-4V24c0-2 1-4 4-4h8z',
  lid: 'M20 8h44v6H20z',
  top: 20,
}
const bottle: Vessel = {
  wall: 'M36 10h12v14c0 6 12 8 12 18v28c0 4-3 6-6 6H30c-4 0-6-3-6-6V42c0-10 12-12 12-18z',
  lid: 'M34 4h16v7H34z',
  top: 22,
}
const vial: Vessel = {
  wall: 'M34 28h16v8c6 3 8 7 8 12v22c0 4-3 6-6 6H32c-4 0-6-3-6-6V48c0-5 2-9 8-12z',
  lid: 'M34 18h16v10H34zM38 8c0-5 8-5 8 0v10h-8z',
  top: 36,
}
const bowl: Vessel = {
  wall: 'M13 32h58c0 22-5 44-14 44H27c-8 0-14-22-14-44z',
  lid: 'M10 26h64v6H10z',
  top: 32,
}

const byForm: Record<string, Vessel> = {
  liquid: bottle,
  oil: vial,
  bar: bowl,
  pieces: bowl,
  solid: bowl,
  beads: caddy,
  crystals: caddy,
  granules: caddy,
  flakes: caddy,
  needles: caddy,
}

export const vesselOf = (form: string): Vessel => byForm[form] ?? jar

// What the writers of display lists share.

/** The path of a list of points. */
export const pathOf = (item: { points?: number[][] | undefined; closed?: boolean | undefined }) =>
  (item.points ?? []).map((p, i) => `${i ? 'L' : 'M'}${p[0]} ${p[1]}`).join('') + (item.closed ? 'Z' : '')

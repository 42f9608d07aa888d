// What the writers of display lists share.

/** The path of a list of points. */
export const pathOf = (item: { points?: number[][] | undefined; closed?: boolean | undefined }) =>
  (item.points ?? []).map((p, i) => `${i ? 'L' : 'M'}${p[0]} ${p[1]}`).join('') + (item.closed ? 'Z' : '')

/** Grains of a profile of the base in a tile of 16 px: the rougher, the more and the larger. */
export function grains(grade: number, px: number): string {
  const places = [
    [4, 4],
    [12, 12],
    [12, 4],
    [4, 12],
    [8, 8],
  ].slice(0, grade < 4 ? 1 + grade : 5)
  const r = (0.5 + 0.3 * grade) * px
  return places
    .map(([x, y]) => `M${x! * px - r} ${y! * px}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`)
    .join('')
}

// What the writers of display lists share.

/** The path of a list of points. */
export const pathOf = (item: { points?: number[][] | undefined; closed?: boolean | undefined }) =>
  (item.points ?? []).map((p, i) => `${i ? 'L' : 'M'}${p[0]} ${p[1]}`).join('') + (item.closed ? 'Z' : '')

/** The size of an element, watched. */
export function watchSize(element: HTMLElement, set: (size: { width: number; height: number }) => void): () => void {
  const observer = new ResizeObserver(([entry]) => {
    const { width, height } = entry!.contentRect
    set({ width: Math.round(width), height: Math.round(height) })
  })
  observer.observe(element)
  return () => observer.disconnect()
}

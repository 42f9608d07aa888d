/** What a person says of how it was laid, as the entry takes it. */
export const strokes = ['one_way', 'crossed'] as const
export const faces = ['dry', 'damp', 'ssd', 'wetted'] as const

export function asDone(typed: Record<string, string>): Record<string, string> {
  const said = { strokes: typed.strokes, face: typed.face, colour: typed.colour?.trim(), tool: typed.tool?.trim() }
  return Object.fromEntries(Object.entries(said).filter(([, text]) => text)) as Record<string, string>
}

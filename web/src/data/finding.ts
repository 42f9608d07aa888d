/** Whether a name has all the words that are looked for, whatever their case and accents. */
export function found(name: string, wanted: string): boolean {
  const bare = (text: string) =>
    text
      .normalize('NFD')
      .replace(/\p{Mn}/gu, '')
      .toLowerCase()
  const all = bare(name)
  return bare(wanted)
    .split(/\s+/)
    .every((word) => all.includes(word))
}

/** Letters that the embedded typefaces of a PDF carry, as its own tables say (ToUnicode). */
export function lettersIn(pdf: Uint8Array): Set<string> {
  const text = Buffer.from(pdf).toString('latin1')
  const maps = [...text.matchAll(/beginbf(?:char|range)([\s\S]*?)endbf/g)].map(m => m[1]!)
  const ends = maps.flatMap(m => [...m.matchAll(/<([0-9a-fA-F]{4})>\s*$/gm)].map(m => m[1]!))
  return new Set(ends.map(hex => String.fromCharCode(Number.parseInt(hex, 16))))
}

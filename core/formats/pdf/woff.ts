import { unzlibSync } from 'fflate'

/** W3C, WOFF File Format 1.0: where the tables of a font stand in the packed file, and where in the plain one. */
const HEAD_BYTES = 44
const ROW_BYTES = 20
const SFNT_HEAD_BYTES = 12
const SFNT_ROW_BYTES = 16
const SIGNATURE = 0x774f4646

/**
 * A font as it is used, out of the packed form in which it is shipped.
 * @throws where it is no WOFF file
 */
export function fontOfWoff(packed: Uint8Array): Uint8Array {
  const from = new DataView(packed.buffer, packed.byteOffset, packed.byteLength)
  if (packed.byteLength < HEAD_BYTES || from.getUint32(0) !== SIGNATURE) throw new Error('this is no WOFF file')
  const tables = from.getUint16(12)
  const font = new Uint8Array(from.getUint32(16))
  const to = new DataView(font.buffer)
  const power = Math.floor(Math.log2(tables))
  to.setUint32(0, from.getUint32(4))
  to.setUint16(4, tables)
  to.setUint16(6, 2 ** power * SFNT_ROW_BYTES)
  to.setUint16(8, power)
  to.setUint16(10, (tables - 2 ** power) * SFNT_ROW_BYTES)
  let at = SFNT_HEAD_BYTES + SFNT_ROW_BYTES * tables
  for (let i = 0; i < tables; i++) {
    const row = HEAD_BYTES + ROW_BYTES * i
    const [offset, packedBytes, bytes] = [4, 8, 12].map(n => from.getUint32(row + n)) as [number, number, number]
    const data = packed.subarray(offset, offset + packedBytes)
    font.set(packedBytes < bytes ? unzlibSync(data) : data, at)
    const put = SFNT_HEAD_BYTES + SFNT_ROW_BYTES * i
    to.setUint32(put, from.getUint32(row))
    to.setUint32(put + 4, from.getUint32(row + 16))
    to.setUint32(put + 8, at)
    to.setUint32(put + 12, bytes)
    // Each table begins at a multiple of four.
    at = (at + bytes + 3) & ~3
  }
  return font
}

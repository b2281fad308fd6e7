import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import type { FaceFile } from '../core/formats/pdf/typefaces'

const FILES: Record<FaceFile, string> = {
  sans: 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf',
  'sans-bold': 'dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf',
  world: '@fontsource/unifont/files/unifont-latin-400-normal.woff',
}
const packages = createRequire(import.meta.url)

/** A typeface out of the packages that ship it. */
export const loadFace = (file: FaceFile): Promise<Uint8Array> => readFile(packages.resolve(FILES[file]))

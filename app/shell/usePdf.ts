import world from '@fontsource/unifont/files/unifont-latin-400-normal.woff?url'
import sansBold from 'dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf?url'
import sans from 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf?url'
import { useToast } from 'primevue/usetoast'
import type { FaceFile, LoadFace } from '#core/formats/pdf/typefaces'
import { download } from './download'

const URLS: Record<FaceFile, string> = { sans, 'sans-bold': sansBold, world }

/** A typeface for a PDF, fetched when a name wants it. */
async function loadFace(file: FaceFile): Promise<Uint8Array> {
  const answer = await fetch(URLS[file]).catch(() => null)
  if (!answer?.ok) throw new Error('The letters for a name in it are at the server, which does not answer. Try later.')
  return new Uint8Array(await answer.arrayBuffer())
}

/** Gives a PDF to the browser; what keeps it from being made is told. */
export function usePdf() {
  const toast = useToast()
  return async (name: string, make: (loadFace: LoadFace) => Promise<Uint8Array>) => {
    try {
      download(name, await make(loadFace), 'application/pdf')
    } catch (error) {
      toast.add({ severity: 'error', summary: 'No PDF was made', detail: (error as Error).message })
    }
  }
}

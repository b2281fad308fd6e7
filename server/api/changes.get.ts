import { onChange } from '../db/changes'

/** Something is sent this often, so that a stream that broke is noticed, ms. */
const STILL_THERE_MS = 25_000

/** What is saved by anybody, as server-sent events: of what, which station, at which revision now. */
export default defineEventHandler(event => {
  const stream = createEventStream(event)
  const end = onChange(change => void stream.push(JSON.stringify(change)))
  const tell = () => void stream.push({ event: 'still', data: '' })
  // The head goes out with the first word: a page asks for what it missed once it has that.
  tell()
  const still = setInterval(tell, STILL_THERE_MS)
  stream.onClosed(() => {
    end()
    clearInterval(still)
  })
  return stream.send()
})

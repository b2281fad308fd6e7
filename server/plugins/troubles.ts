import { troubleOf } from '../requests/troubles'

/** A full disk, or a database that is away, is told in words and in one line of the log, whatever was asked. */
export default defineNitroPlugin(nitro => {
  const { options } = nitro.h3App
  const answer = options.onError
  options.onError = (error, event) => {
    const trouble = troubleOf(error)
    if (trouble) console.error(`${event.method} ${event.path}: ${trouble.message}`)
    return answer?.(trouble ? createError(trouble) : error, event)
  }
})

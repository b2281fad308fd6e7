import { defineAsyncComponent, defineComponent, h, type Component } from 'vue'
import { noteAnswer } from '../stores/reach'

type Load<T> = () => Promise<T>

const FIRST_WAIT_MS = 500
const LONGEST_WAIT_MS = 8000
const wait = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))

/** What views have put off; {@link fetchAhead} fetches it once the first picture stands. */
const putOff = new Set<Load<unknown>>()

/** Whether a program has not come, or is wrong once it has: browsers say it in their own words. */
const notCome = (error: unknown) => error instanceof Error && /import|preload/i.test(error.message)

/** A small file of every page: what keeps the pages where the net does not reach answers for it as well. */
const ANY_FILE = '/icon.svg'

/** Whoever has answered so lately answers still: many small programs are fetched one after the other. */
const STILL_MS = 300
let answeredAtMs = -Infinity

async function isAnswered(): Promise<boolean> {
  if (performance.now() - answeredAtMs < STILL_MS) return true
  try {
    await fetch(ANY_FILE, { cache: 'no-store', signal: AbortSignal.timeout(LONGEST_WAIT_MS) })
    answeredAtMs = performance.now()
    return true
  } catch {
    return false
  }
}

/** The server answers, and the program does not come: it was renewed, and the page is of before. */
const MOST_FAILURES = 3

/** What has come stays with the page. */
const come = new WeakSet<Load<unknown>>()

/**
 * A program fetched from the server: while that does not answer, asked for again and again, less and less often.
 * It is asked for only once the server answers for something else: of a program that failed to come, browsers never
 * ask again for the parts it shares with others.
 * @throws what the browser says, where the server answers and has no such program
 */
export async function fetched<T>(load: Load<T>): Promise<T> {
  if (come.has(load)) return load()
  let failures = 0
  for (let waitMs = FIRST_WAIT_MS; ; waitMs = Math.min(2 * waitMs, LONGEST_WAIT_MS)) {
    if (await isAnswered()) {
      try {
        const program = await load()
        come.add(load)
        return program
      } catch (error) {
        answeredAtMs = -Infinity
        if (!notCome(error) || ++failures === MOST_FAILURES) throw error
      }
    } else noteAnswer()
    await wait(waitMs)
  }
}

/** A program that the first picture does not need: it is fetched after it, or by whoever needs it before. */
export function notYet<T>(load: Load<T>): Load<T> {
  putOff.add(load)
  return load
}

/** A component that the first picture does not need. */
export function later<T extends Component>(load: Load<{ default: T }>): T {
  notYet(load)
  return defineAsyncComponent(() => fetched(load)) as unknown as T
}

/** A dialog whose program comes once it is first asked for (its `visible`); from then on it stays, and fades out. */
export function laterDialog<T extends Component>(load: Load<{ default: T }>): T {
  const dialog = later(load)
  return defineComponent({
    inheritAttrs: false,
    setup(_, { attrs }) {
      let wasAsked = false
      return () => ((wasAsked ||= attrs.visible === true) ? h(dialog, attrs) : null)
    },
  }) as unknown as T
}

/**
 * Fetches one after the other what may be wanted later, so that it opens also while the server is away.
 * A view that has come may have put off more.
 * @param views the programs of the other views, which wait for the server themselves (router.options.ts)
 */
export async function fetchAhead(views: Load<unknown>[]) {
  const ahead = (load: Load<unknown>) => fetched(load).catch(() => undefined)
  for (const load of putOff) await ahead(load)
  for (const view of views) await view().catch(() => undefined)
  for (const load of putOff) await ahead(load)
}

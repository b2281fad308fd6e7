import { defineAsyncComponent, defineComponent, h, type Component } from 'vue'

type Load<T> = () => Promise<T>

const FIRST_WAIT_MS = 500
const LONGEST_WAIT_MS = 8000
const wait = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))

/** What views have put off; {@link fetchAhead} fetches it once the first picture stands. */
const putOff = new Set<Load<unknown>>()

/** Whether a program has not come, or is wrong once it has: browsers say it in their own words. */
const notCome = (error: unknown) => error instanceof Error && /import|preload/i.test(error.message)

/** A program fetched from the server: while that does not answer, asked for again and again, less and less often. */
export async function fetched<T>(load: Load<T>): Promise<T> {
  for (let waitMs = FIRST_WAIT_MS; ; waitMs = Math.min(2 * waitMs, LONGEST_WAIT_MS)) {
    try {
      return await load()
    } catch (error) {
      if (!notCome(error)) throw error
      await wait(waitMs)
    }
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
 * @param views the programs of the other views
 */
export async function fetchAhead(views: Load<unknown>[]) {
  for (const load of [...putOff, ...views]) await fetched(load)
  for (const load of putOff) await fetched(load)
}

/** Processes of ours, as many as there are processors, that are asked one question at a time. */
import { fork, type ChildProcess } from 'node:child_process'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import type { Ask } from './runner'

/** A process of ours: one question at a time; null when it did not answer in time. */
export class Runner {
  private process: ChildProcess | null = null
  ask<T>(question: Ask, lostMs: number): Promise<T | null> {
    const child = (this.process ??= fork(join(import.meta.dirname, 'runner.ts'), {
      execArgv: ['--import', 'tsx', '--max-old-space-size=3000'],
    }))
    return new Promise(resolve => {
      const lost = () => {
        child.removeAllListeners()
        child.kill('SIGKILL')
        this.process = null
        resolve(null)
      }
      const timer = setTimeout(lost, lostMs)
      child.once('exit', () => (clearTimeout(timer), lost()))
      child.once('message', answer => {
        clearTimeout(timer)
        child.removeAllListeners('exit')
        resolve(answer as T)
      })
      child.send(question)
    })
  }
  end() {
    this.process?.removeAllListeners()
    this.process?.kill()
  }
}

export const runners = Array.from({ length: availableParallelism() }, () => new Runner())

/** All of a list, by as many hands as there are processors. */
export async function byAll<T, R>(list: readonly T[], work: (item: T, runner: Runner) => Promise<R>): Promise<R[]> {
  const results: R[] = []
  let next = 0
  const hand = async (runner: Runner) => {
    while (next < list.length) {
      const at = next++
      results[at] = await work(list[at]!, runner)
    }
  }
  await Promise.all(runners.map(hand))
  return results
}

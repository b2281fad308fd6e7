import { fixed } from './number'

/** A time of a recording or an event as a clock has it: seconds inside, hours and minutes on the outside. */

/** "1:30:05", "0:07": from an hour on with its hours. */
export function showClock(seconds: number): string {
  const whole = Math.round(seconds)
  const two = (n: number) => String(n).padStart(2, '0')
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60]
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`
}

/** "1:30:05", "7:30" as minutes and seconds, "90" as seconds; null where it is none of these. */
export function readClock(text: string): number | null {
  const parts = text.trim().split(':')
  if (parts.length > 3 || !parts.every(p => /^\d{1,6}(\.\d+)?$/.test(p))) return null
  const figures = parts.map(Number)
  // Under the largest, sixty make one more.
  if (figures.slice(1).some(f => f >= 60)) return null
  return figures.reduce((total, f) => total * 60 + f, 0)
}

/** Hours as one says them: "40 min", "6.5 h", "3.2 days". */
export function durationWords(hours: number): string {
  if (hours < 1) return `${Math.round(60 * hours)} min`
  if (hours < 72) return `${hours < 10 ? fixed(hours, 1) : Math.round(hours)} h`
  return `${fixed(hours / 24, 1)} days`
}

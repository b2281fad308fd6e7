import { chemistry } from '../catalog/chemistries'
import { kindOf } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'

/** One line for each danger a plan holds; every sheet and screen that could get somebody hurt shows them. */
export function cautionsOf(plan: Plan): string[] {
  const lines: string[] = []
  if (plan.parts.some(p => p.kind === 'supply')) lines.push('Mains: leave the mains side to the supply\'s own case and cord; unplug it before touching a terminal.')
  for (const id of new Set(plan.parts.flatMap(p => p.kind === 'battery' ? [p.chemistry] : []))) {
    const { caution } = chemistry(id)
    if (caution) lines.push(caution)
  }
  for (const part of plan.parts) {
    if (part.kind !== 'battery' || part.internalOhm <= 0) continue
    const prospectiveA = kindOf(part).source!(part, 'full')!.emfV / part.internalOhm
    if (prospectiveA > 1000) lines.push(`${nameOf(part)} can drive about ${Math.round(prospectiveA / 100) * 100} A into a short: take rings and watches off, insulate tools, cover live posts.`)
  }
  const highest = Math.max(0, ...plan.parts.map(p => kindOf(p).source?.(p, 'charging')?.emfV ?? 0))
  if (highest > 60) lines.push(`Over 60 V DC (${highest.toFixed(0)} V): a touch can kill, and an arc does not go out by itself.`)
  lines.push('This sheet says what was planned and which checks it passed. Local codes and a licensed electrician decide.')
  return lines
}

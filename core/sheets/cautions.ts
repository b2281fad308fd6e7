import { chemistry } from '../catalog/chemistries'
import { kindOf } from '../kinds/index'
import { nameOf } from '../plan/find'
import { openCircuitVolts } from '../kinds/panel'
import { DEFAULT_AMBIENT_C, type Plan } from '../plan/schema'
import { prospectiveAtPost } from '../protection/prospective'

/** One line for each danger a plan holds; every sheet and screen that could get somebody hurt shows them. */
export function cautionsOf(plan: Plan): string[] {
  const lines: string[] = []
  if (plan.parts.some(p => p.kind === 'supply' || (p.kind === 'charger' && p.fedBy === undefined)))
    lines.push("Mains: leave the mains side to the supply's own case and cord; unplug it before touching a terminal.")
  for (const id of new Set(plan.parts.flatMap(p => (p.kind === 'battery' ? [p.chemistry] : [])))) {
    const { caution } = chemistry(id)
    if (caution) lines.push(caution)
  }
  for (const part of plan.parts) {
    const prospectiveA = prospectiveAtPost(part)
    if (prospectiveA !== null && prospectiveA > 1000)
      lines.push(
        `${nameOf(part)} can drive about ${Math.round(prospectiveA / 100) * 100} A into a short: take rings and watches off, insulate tools, cover live posts.`,
      )
  }
  if (plan.parts.some(p => p.kind === 'inverter'))
    lines.push(
      'Inverter: its output is mains voltage and kills. Leave its AC side to its own sockets; more than that is for a licensed electrician.',
    )
  if (plan.parts.some(p => p.kind === 'panel'))
    lines.push(
      'Solar panels are live whenever there is light: cover them, battery first and panel second, and never open a panel connector under load.',
    )
  const low = plan.site?.ambientC?.low ?? DEFAULT_AMBIENT_C.low
  const highest = Math.max(
    0,
    ...plan.parts.flatMap(p =>
      p.kind === 'panel'
        ? [openCircuitVolts(p, low)]
        : (kindOf(p)
            .sources?.(p, 'charging', () => [])
            .map(s => s.emfV) ?? []),
    ),
  )
  if (highest > 60)
    lines.push(`Over 60 V DC (${highest.toFixed(0)} V): a touch can kill, and an arc does not go out by itself.`)
  lines.push(
    'This sheet says what was planned and which checks it passed. Local codes and a licensed electrician decide.',
  )
  return lines
}

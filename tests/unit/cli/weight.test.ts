import { build } from 'esbuild'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'

const ROOT = join(import.meta.dirname, '../../..')

/** The files of ours and of packages that a file needs before it runs, without what it loads when asked for. */
async function neededBy(file: string): Promise<string[]> {
  const { metafile } = await build({
    absWorkingDir: ROOT,
    entryPoints: [file],
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    outdir: 'not-written',
    write: false,
    metafile: true,
  })
  const needed = new Set<string>()
  const queue = [file]
  for (let next = queue.pop(); next; next = queue.pop()) {
    if (needed.has(next)) continue
    needed.add(next)
    const { imports } = metafile.inputs[next]!
    queue.push(...imports.filter(i => i.kind !== 'dynamic-import' && !i.external).map(i => i.path))
  }
  return [...needed]
}

describe('what a command loads before it does anything', () => {
  it.each(['check', 'hours', 'export'])('%s loads no PDF maker', async command => {
    const needed = await neededBy(`cli/commands/${command}.ts`)
    expect(needed).toContain('core/plan/schema.ts')
    expect(needed.filter(f => f.includes('pdf'))).toEqual([])
  })

  it('the door loads no command', async () => {
    const needed = await neededBy('cli/wireman.ts')
    expect(needed).toContain('cli/main.ts')
    expect(needed.filter(f => f.startsWith('cli/commands/'))).toEqual([])
  })
})

/**
 * Makes the command line one file, compiled (docs/speed.md has what that saves): what ./run starts.
 */
import { execFileSync } from 'node:child_process'
import { copyFileSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'esbuild'

const folder = join(import.meta.dirname, '..', '.output-cli')
// What an earlier build left under other names is loaded by nothing.
rmSync(folder, { recursive: true, force: true })
mkdirSync(folder)
copyFileSync(join(import.meta.dirname, 'start.mjs'), join(folder, 'start.mjs'))

const { outputFiles } = await build({
  entryPoints: [join(import.meta.dirname, 'wireman.ts')],
  bundle: true,
  minifyWhitespace: true,
  minifySyntax: true,
  platform: 'node',
  format: 'cjs',
  logLevel: 'error',
  define: { 'import.meta.url': 'ownUrl' },
  banner: { js: "const ownUrl=require('node:url').pathToFileURL(__filename).href;" },
  write: false,
})

// esbuild leaves other letters than ASCII only in regular expressions and comments. Without them the program is read
// in a third of the time.
const ascii = outputFiles[0].text.replace(/[^\0-\x7f]/g, c => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`)
writeFileSync(join(folder, 'wireman.cjs'), ascii)

try {
  const check = [join(folder, 'start.mjs'), 'check', 'demo/tern-rock-light.json']
  execFileSync(process.execPath, check, {
    env: { ...process.env, WIREMAN_COMPILE: '1' },
    stdio: ['ignore', 'ignore', 'inherit'],
  })
} catch (error) {
  // A plan with faults ends with 1.
  if (error.status !== 1) throw error
}

/** Everything to a file, or from one: ./run backup FILE, ./run restore FILE (--yes: without a look first). */
import { readFileSync } from 'node:fs'
import { readBackup } from '../../core/formats/backup'
import { fromBackup, type WouldChange } from './backup'
import { close, database, dataFolder } from './client'
import { inWords } from './folder'
import { troubleOf } from '../requests/troubles'
import { backupTo, keepCopy } from './kept'

const [what, file, ...options] = process.argv.slice(2)
process.env.WIREMAN_EMPTY = 'yes'

function words({ added, changed, putBack, documents, same, shelf }: WouldChange): string {
  const said = [
    added.length && `put in: ${added.join(', ')}`,
    changed.length && `changed, what stands now stays in their history: ${changed.join(', ')}`,
    putBack.length && `deleted here, put back: ${putBack.join(', ')}`,
    documents.length && `replaced: ${documents.join(', ')}`,
    shelf && 'the shelf replaced',
    `${same} as they are`,
  ]
  return said.filter(Boolean).join('\n')
}

async function restored(text: string, isSure: boolean): Promise<number> {
  const read = readBackup(text)
  if (!read.ok) {
    console.error(`${file}, line ${read.line}: ${read.wrong}; right would be ${read.right}`)
    return 2
  }
  for (const { line, wrong } of read.aside) console.error(`line ${line}, left aside: ${wrong}`)
  const would = await fromBackup(read.backup, false)
  console.log(words(would))
  if (!isSure) {
    console.log('Nothing was changed. To restore it: ./run restore FILE --yes')
    return 0
  }
  console.log(`What stands now is kept in ${await keepCopy(`before-restoring-${Date.now()}`)}`)
  await fromBackup(read.backup, true)
  return read.aside.length ? 1 : 0
}

async function run(): Promise<number> {
  if (!file || (what !== 'backup' && what !== 'restore')) {
    console.error('./run backup FILE, or ./run restore FILE')
    return 2
  }
  const text = what === 'restore' ? readFileSync(file, 'utf8') : ''
  await database()
  if (what === 'restore') return restored(text, options.includes('--yes'))
  const lost = await backupTo(file)
  for (const words of lost) console.error(`not in it: ${words}`)
  console.log(`${lost.length ? 'All that can be read' : 'Everything'} in ${dataFolder()} is in ${file}`)
  return lost.length ? 1 : 0
}

try {
  const code = await run()
  await close()
  process.exit(code)
} catch (error) {
  const isNone = (error as NodeJS.ErrnoException).code === 'ENOENT'
  const words = () => troubleOf(error)?.message ?? inWords(error, dataFolder())
  console.error(isNone ? `There is no file ${file}` : words())
  process.exit(2)
}

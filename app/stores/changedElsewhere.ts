const MOST_NAMED = 3

/** What is said after something was merged with what another window made of it. */
export function changedElsewhere(what: string, clashes: readonly string[]): string {
  const verb = / (events|.*s)$/.test(what) ? 'were' : 'was'
  const both = `${what} ${verb} changed in another window as well: `
  if (!clashes.length) return `${both}what each changed is kept.`
  const more = clashes.length > MOST_NAMED ? ` and ${clashes.length - MOST_NAMED} more` : ''
  return `${both}both changed ${clashes.slice(0, MOST_NAMED).join(', ')}${more}, where this window’s stands.`
}

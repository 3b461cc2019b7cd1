/** The section of the rules that goes with a figure, as HTML; the text is read when it is first asked for. */
export async function ruleHtml (anchor: string): Promise<string | null> {
  const [{ default: text }, { marked }] = await Promise.all([import('../../../docs/rules.md?raw'), import('marked')])
  const section = sectionOf(text, anchor)
  return section === null ? null : marked.parse(section)
}

/** What stands under one heading of the third rank, without the heading; null where there is none. */
export function sectionOf (text: string, anchor: string): string | null {
  const parts = text.split(/^#{2,3} /m)
  const found = parts.find(part => part.startsWith(`${anchor}\n`))
  return found ? found.slice(anchor.length).trim() : null
}

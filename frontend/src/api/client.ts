import type { components } from './schema'

type Schemas = components['schemas']
export type Schema<Name extends keyof Schemas> = Schemas[Name]
export type FieldProblem = Schema<'FieldProblem'>
export type Problem = Schema<'Problem'>

const UNREACHABLE: Problem = {
  type: 'about:blank',
  title: 'No answer',
  status: 0,
  detail: 'The application does not answer. Start it again, then retry; nothing stored is lost.',
  errors: [],
}

/** What the server refused, with field, value, allowed range and cure for each finding. */
export class Refusal extends Error {
  constructor (readonly problem: Problem) {
    super(problem.detail)
  }

  /** The cure for one field, ready to stand beside it. */
  for (field: string): string | undefined {
    const found = this.problem.errors?.find(error => isOf(error, field))
    return found && `Allowed: ${found.allowed}. ${found.cure}`
  }

  /** All of it in words; fields by the name people use, not by the one in the message. */
  get words (): string {
    return this.besides([])
  }

  /** What is left to say once each of some fields shows its own finding; empty when nothing is. */
  besides (fields: readonly string[]): string {
    const { errors, detail } = this.problem
    if (!errors?.length) return detail
    return errors.filter(error => !fields.some(field => isOf(error, field))).map(said).join(' ')
  }
}

const isOf = (error: FieldProblem, field: string) => error.field === field || error.field.endsWith(`.${field}`)
const UNITS = /_(mm|m|deg|arcmin|arcsec|percent|kg|g|c|s|days|years|minutes|utc|mpsas|id|in)$/
function said (error: FieldProblem): string {
  const part = error.field.split('.').filter(one => !/^\d+$/.test(one)).pop() ?? error.field
  const name = part.replace(UNITS, '').replaceAll('_', ' ')
  return error.detail.replace(`${error.field} is`, `${name.charAt(0).toUpperCase()}${name.slice(1)} is`)
}

interface CallOptions {
  method?: 'GET' | 'POST' | 'PUT' | 'DELETE'
  json?: unknown
  /** A body sent as it is, such as a file. */
  csv?: Blob
}

/** Ask the server; rejects with a `Refusal` and nothing else. */
export async function call<T> (path: string, options: CallOptions = {}): Promise<T> {
  const { method = 'GET', json, csv } = options
  const headers: Record<string, string> = {}
  if (json !== undefined) headers['Content-Type'] = 'application/json'
  if (csv) headers['Content-Type'] = 'text/csv'
  let response: Response
  try {
    const body = csv ?? (json === undefined ? undefined : JSON.stringify(json))
    response = await fetch(`/api${path}`, { method, headers, body })
  } catch {
    throw new Refusal(UNREACHABLE)
  }
  if (!response.ok) throw new Refusal(await response.json().catch(() => UNREACHABLE))
  return (response.status === 204 ? undefined : await response.json()) as T
}

/** The five verbs every kept kind of thing understands. */
export function itemsAt<T extends { id?: number | null }> (path: string) {
  return {
    list: () => call<T[]>(path),
    add: (item: Partial<T>) => call<T>(path, { method: 'POST', json: { ...item, id: null } }),
    change: (id: number, item: Partial<T>) => call<T>(`${path}/${id}`, { method: 'PUT', json: { ...item, id: null } }),
    remove: (id: number) => call<void>(`${path}/${id}`, { method: 'DELETE' }),
    restore: (id: number) => call<T>(`${path}/${id}/restore`, { method: 'POST' }),
  }
}
export type Items<T extends { id?: number | null }> = ReturnType<typeof itemsAt<T>>

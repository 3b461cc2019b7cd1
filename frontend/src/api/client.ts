import { free } from './hand'
import { counted } from './pending'
import type { components } from './schema'

type Schemas = components['schemas']
export type Schema<Name extends keyof Schemas> = Schemas[Name]
export type FieldProblem = Schema<'FieldProblem'>
export type Problem = Schema<'Problem'>
export type Topic = Schema<'Told'>['topic']

const nothingStored = (title: string, detail: string): Problem => ({ type: 'about:blank', title, status: 0, detail, errors: [], stored: null })
export const UNREACHABLE = nothingStored(
  'No answer', 'The application does not answer. Start it again, then retry; nothing stored is lost.',
)
const BROKEN = nothingStored('Broken', 'Something went wrong in this page. Load it again; what is stored is kept.')

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

  /** Whether it is the Sun that forbids it. */
  get isOfTheSun (): boolean {
    return this.problem.title === 'Refused because of the Sun'
  }

  /** Nobody answered at all. */
  get isUnanswered (): boolean {
    return this.problem.status === 0
  }

  /** Nothing was taken because nobody answered, or the disk took nothing: it may be sent again as it is. */
  get isLost (): boolean {
    return this.problem.status === 0 || this.problem.status >= 500
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

  /** What somebody else stored meanwhile, when that is why it was refused. */
  get stored (): Record<string, unknown> | null {
    return this.problem.stored ?? null
  }
}

/** Whatever was thrown, as a refusal: the one place where that is decided. */
export function asRefusal (error: unknown): Refusal {
  return error instanceof Refusal ? error : new Refusal(BROKEN)
}

const isOf = (error: FieldProblem, field: string) => error.field === field || error.field.endsWith(`.${field}`)
const UNITS = /_(mm|m|deg|arcmin|arcsec|percent|kg|g|c|s|days|years|minutes|utc|mpsas|id|in)$/
/** A field of a message by the name people use. */
export function fieldName (field: string): string {
  const part = field.split('.').filter(one => !/^\d+$/.test(one)).pop() ?? field
  const name = part.replace(UNITS, '').replaceAll('_', ' ')
  return `${name.charAt(0).toUpperCase()}${name.slice(1)}`
}
function said (error: FieldProblem): string {
  return error.detail.replace(`${error.field} is`, `${fieldName(error.field)} is`)
}

/** A name that nothing else has. */
export const newKey = (): string => crypto.randomUUID?.() ?? `${Date.now()}-${Math.random()}`
/** This page's own name, so that it is not told twice of what it changed itself. */
export const PAGE = newKey()
/** The rehearsal this page believes to be in, empty for the evening itself: a change meant for the other is refused. */
export const world = { rehearsal: null as string | null }
type Changed = (topic: Topic) => void
type Counted = (number: number) => void
const heard: { changed: Changed, told: Counted } = { changed: () => {}, told: () => {} }
/** Say who wants to know what a call of this page changed, and how many changes had been told. */
export function onAnswers (changed: Changed, told: Counted) {
  Object.assign(heard, { changed, told })
}

interface CallOptions {
  method?: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'
  json?: unknown
  /** A body sent as it is, such as a file. */
  csv?: Blob
  /** A picture, sent as it is. */
  picture?: Blob
  /** A zip, sent as it is. */
  zip?: Blob
  /** The rehearsal it is meant for, where it was written before. */
  rehearsal?: string
  /** Asked by a press or for a change, and by nothing again: it is not given up while nobody answers. */
  isOnce?: boolean
}
/** What is sent on after a page is closed has to be small. */
const MOST_KEPT_ALIVE = 60_000

/** Ask the server; rejects with a `Refusal` and nothing else. */
export async function call<T> (path: string, options: CallOptions = {}): Promise<T> {
  const { method = 'GET', json, csv, picture, zip } = options
  const headers: Record<string, string> = { 'X-Page': PAGE }
  const rehearsal = options.rehearsal ?? world.rehearsal
  if (method !== 'GET' && rehearsal !== null) headers['X-Rehearsal'] = rehearsal
  if (json !== undefined) headers['Content-Type'] = 'application/json'
  if (csv) headers['Content-Type'] = 'text/csv'
  if (picture) headers['Content-Type'] = 'application/octet-stream'
  if (zip) headers['Content-Type'] = 'application/zip'
  const text = json === undefined ? undefined : JSON.stringify(json)
  const body = csv ?? picture ?? zip ?? text
  const isSmall = !csv && !picture && !zip && (text?.length ?? 0) < MOST_KEPT_ALIVE
  // a change is still sent when the page is closed the moment after
  const isAsked = method === 'GET' && !options.isOnce
  const request = { method, headers, body, keepalive: method !== 'GET' && isSmall }
  const { response, answer } = await counted(isAsked, async () => {
    const response = await ask(path, request, isAsked ? waiting.signal : null)
    return { response, answer: (response.status === 204 ? undefined : await response.json()) as T }
  })
  await free()
  const changed = response.headers.get('X-Changed') as Topic | null
  if (changed) heard.changed(changed)
  return answer
}

/** A file the server makes, whole, however long that takes; rejects with a `Refusal` as `call` does. */
export const askFile = (path: string): Promise<Blob> => counted(false, async () => (await ask(path, { headers: { 'X-Page': PAGE } })).blob())

/** So soon it is asked again while the application is starting. */
const STARTING_MS = 500
let waiting = new AbortController()
/** Wait no longer for what was only asked: nobody is there to answer. What is to be stored is left alone. */
export function abandon () {
  waiting.abort()
  waiting = new AbortController()
}

/** An answer that is no refusal. */
async function ask (path: string, request: RequestInit, signal: AbortSignal | null = null): Promise<Response> {
  const send = () => fetch(`/api${path}`, { ...request, signal })
  let response: Response
  try {
    response = await send()
    // it is starting and has taken nothing yet: told at once, so that no way is held up
    while (response.status === 503 && response.headers.has('Retry-After')) {
      await new Promise(done => setTimeout(done, STARTING_MS))
      response = await send()
    }
  } catch {
    throw new Refusal(UNREACHABLE)
  }
  heard.told(Number(response.headers.get('X-Told') ?? 0))
  if (response.ok) return response
  const problem = await response.json().catch(() => UNREACHABLE) as Problem
  await free()
  throw new Refusal(problem)
}

interface Kept { id?: number | null, version?: number | null }
/** The five verbs every kept kind of thing understands; a change goes with the version it was read at. */
export function itemsAt<T extends Kept> (path: string) {
  const add = (item: Partial<T>) => call<T>(path, { method: 'POST', json: { ...item, id: null } })
  const change = (id: number, item: Partial<T>) => call<T>(`${path}/${id}`, { method: 'PUT', json: { ...item, id: null } })
  return {
    list: () => call<T[]>(path),
    /** One of them as it is stored now, to be changed; undefined where it is gone. */
    one: async (id: number) => (await call<T[]>(path, { isOnce: true })).find(item => item.id === id),
    add,
    change,
    /** Store what a form holds: something new without an id, else a change. */
    save: (id: number | null, item: Record<string, unknown>) => id === null ? add(item as Partial<T>) : change(id, item as Partial<T>),
    /** Take out what was read: whatever somebody made of it since is not taken out unseen. */
    remove: ({ id, version }: Kept) => call<void>(`${path}/${id}${version ? `?version=${version}` : ''}`, { method: 'DELETE' }),
    restore: (id: number) => call<T>(`${path}/${id}/restore`, { method: 'POST' }),
  }
}
export type Items<T extends Kept> = ReturnType<typeof itemsAt<T>>

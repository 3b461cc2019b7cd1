import type { Schema } from '@/api/client'

export type Told = Schema<'Told'>
export type Kind = Schema<'Shown'>['instrument']
interface Wanted { wanted: true }
const NAME = 'jade-perch'
const LOOK_MS = 20_000
/** Something comes every second; after so long without anything nobody is there, or the way is cut. */
const SILENT_MS = 2_200
const WATCH_MS = 250
const FIRST_MS = 10_000
/** How long a stream that was opened anew is waited for. */
const PATIENCE_MS = 5_000
const lockOf = (kind: Kind) => `${NAME}-listens-${kind}`
const KINDS: readonly Kind[] = ['level', 'compass']

/**
 * The one stream of this browser: whichever page holds the lock reads it and passes everything on to the others.
 * Where a browser has no locks (a page opened from another machine), every page reads its own.
 */
export class Stream {
  private readonly channel: BroadcastChannel | null
  private source: EventSource | null = null
  private leads = false
  private isLost = false
  /** The first word may take its time: whether anybody is there at all is told by what a page asks for. */
  private heardAt = performance.now() + FIRST_MS
  private lookedAt = 0
  private openedAt = 0
  private readonly releases = new Map<Kind, () => void>()

  constructor (private readonly tell: (told: Told) => void, private readonly lost: (isLost: boolean) => void) {
    const isShared = 'locks' in navigator && 'BroadcastChannel' in window
    this.channel = isShared ? new BroadcastChannel(NAME) : null
    if (this.channel) this.channel.onmessage = event => this.hear(event.data as Told | Wanted)
    if (!isShared) this.leads = true
  }

  /** Begin to listen, now or when the page that reads the stream is closed. */
  start () {
    setInterval(() => this.watch(), WATCH_MS)
    if (!this.channel) return void this.open([])
    void navigator.locks.request(`${NAME}-stream`, () => {
      this.leads = true
      void this.reopen()
      setInterval(() => void this.reopen(), LOOK_MS)
      return new Promise(() => {}) // held until this page is gone
    })
  }

  /** Say when nothing has come for a while, and ask anew; a page nobody looks at has nobody to say it to. */
  private watch () {
    const now = performance.now()
    const isLate = now - this.lookedAt > 4 * WATCH_MS // this page itself stood still: what came meanwhile is heard first
    this.lookedAt = now
    if (isLate || document.visibilityState === 'hidden') return
    const wasLost = this.isLost
    if (now - this.heardAt > SILENT_MS) this.setLost(true)
    if (!this.isLost || now - this.openedAt < PATIENCE_MS) return
    this.openedAt = now
    if (wasLost) this.lost(true) // said already; what is asked since is not waited for either
    if (this.leads) {
      this.source?.close()
      void this.reopen()
    } else this.channel?.postMessage({ wanted: true } satisfies Wanted)
  }

  private setLost (isLost: boolean) {
    if (isLost === this.isLost) return
    this.isLost = isLost
    this.lost(isLost)
  }

  /** Ask for the readings of an instrument until `ignore`; other pages may want them too. */
  async listen (kind: Kind) {
    if (this.releases.has(kind)) return
    let release = () => {}
    const held = new Promise<void>(done => { release = done })
    this.releases.set(kind, release)
    if (!this.channel) return this.reopen()
    await new Promise<void>(granted => {
      void navigator.locks.request(lockOf(kind), { mode: 'shared' }, () => {
        granted()
        return held
      })
    })
    await this.wantedChanged()
  }

  async ignore (kind: Kind) {
    this.releases.get(kind)?.()
    this.releases.delete(kind)
    await this.wantedChanged()
  }

  private async wantedChanged () {
    if (this.leads) return this.reopen()
    this.channel?.postMessage({ wanted: true } satisfies Wanted)
  }

  private hear (message: Told | Wanted) {
    if ('wanted' in message) void (this.leads && this.reopen())
    else this.take(message)
  }

  /** Which instruments any page of this browser wants; a closed page wants nothing any more. */
  private async wanted (): Promise<Kind[]> {
    if (!this.channel) return [...this.releases.keys()]
    const held = (await navigator.locks.query()).held?.map(lock => lock.name) ?? []
    return KINDS.filter(kind => held.includes(lockOf(kind)))
  }

  private async reopen () {
    this.open(await this.wanted())
  }

  private open (kinds: readonly Kind[]) {
    const url = `/api/events?${new URLSearchParams(kinds.map(kind => ['listen', kind]))}`
    if (this.source && this.source.readyState !== EventSource.CLOSED && this.source.url.endsWith(url)) return
    this.source?.close()
    this.source = new EventSource(url)
    this.source.onmessage = event => this.pass(JSON.parse(event.data) as Told)
    // cut off: with nobody to tell the time what was safe may be so no longer
    this.source.onerror = () => this.setLost(true)
  }

  private take (told: Told) {
    this.heardAt = performance.now()
    this.setLost(false)
    this.tell(told)
  }

  private pass (told: Told) {
    this.take(told)
    this.channel?.postMessage(told)
  }
}

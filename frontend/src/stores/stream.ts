import type { Schema } from '@/api/client'

export type Told = Schema<'Told'>
export type Kind = Schema<'Shown'>['instrument']
interface Wanted { wanted: true }
const NAME = 'jade-perch'
const LOOK_MS = 20_000
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
  private readonly releases = new Map<Kind, () => void>()

  constructor (private readonly tell: (told: Told) => void) {
    const isShared = 'locks' in navigator && 'BroadcastChannel' in window
    this.channel = isShared ? new BroadcastChannel(NAME) : null
    if (this.channel) this.channel.onmessage = event => this.hear(event.data as Told | Wanted)
    if (!isShared) this.leads = true
  }

  /** Begin to listen, now or when the page that reads the stream is closed. */
  start () {
    if (!this.channel) return void this.open([])
    void navigator.locks.request(`${NAME}-stream`, () => {
      this.leads = true
      void this.reopen()
      setInterval(() => void this.reopen(), LOOK_MS)
      return new Promise(() => {}) // held until this page is gone
    })
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
    else this.tell(message)
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
    this.source.onmessage = event => {
      this.isLost = false
      this.pass(JSON.parse(event.data) as Told)
    }
    // with nobody to tell the time what was safe may be so no longer: asking again says that nobody answers
    this.source.onerror = () => {
      if (!this.isLost) this.pass({ topic: 'clock', boot: '', number: 0, by: '' })
      this.isLost = true
    }
  }

  private pass (told: Told) {
    this.tell(told)
    this.channel?.postMessage(told)
  }
}

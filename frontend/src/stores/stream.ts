import { Pages, type Kind, type Told } from './pages'

export type { Kind, Told }
const KINDS: readonly Kind[] = ['level', 'compass']
/** Something comes every second; after so long without anything nobody is there, or the way is cut. */
const SILENT_MS = 2_200
/** After so long a page asks whether the one that reads is still there, */
const ASK_MS = 1_500
/** and so long an answer, and what then comes first, may take. */
const GRACE_MS = 700
const WATCH_MS = 250
const FIRST_MS = 10_000
/** How long a stream that was opened anew is waited for. */
const PATIENCE_MS = 5_000

/** What the server tells, read by one page of this browser for all of them, and whether anything comes at all. */
export class Stream {
  private source: EventSource | null = null
  private isLost = false
  /** The first word may take its time: whether anybody is there at all is told by what a page asks for. */
  private heardAt = performance.now() + FIRST_MS
  private lookedAt = 0
  private openedAt = 0
  private askedAt = 0
  private saidAt = 0
  private readonly pages = new Pages(told => this.take(told), () => this.settle(), () => this.openIfSilent())

  constructor (private readonly tell: (told: Told) => void, private readonly lost: (isLost: boolean) => void) {}

  /** Begin to listen: to another page that reads already, or to the server. */
  start () {
    setInterval(() => this.watch(), WATCH_MS)
    this.pages.ask()
  }

  /** Ask for the readings of an instrument until `ignore`; other pages may want them too. */
  listen (kind: Kind) {
    this.pages.want(kind, true)
  }

  ignore (kind: Kind) {
    this.pages.want(kind, false)
  }

  /** Say when nothing has come for a while, and ask anew; a page nobody looks at has nobody to say it to. */
  private watch () {
    const now = performance.now()
    const isLate = now - this.lookedAt > 4 * WATCH_MS // this page itself stood still: what came meanwhile is heard first
    this.lookedAt = now
    if (isLate || document.visibilityState === 'hidden') return
    const silence = now - this.heardAt
    if (silence > ASK_MS && now - this.askedAt > ASK_MS && !this.pages.reads) {
      this.askedAt = now
      this.pages.ask()
    }
    if (silence > SILENT_MS && now - Math.max(this.openedAt, this.askedAt) > GRACE_MS) this.setLost(true)
    if (this.isLost && now - this.saidAt >= PATIENCE_MS) this.say() // what is asked since is not waited for either
  }

  private setLost (isLost: boolean) {
    if (isLost === this.isLost) return
    this.isLost = isLost
    this.say()
  }

  private say () {
    this.saidAt = performance.now()
    this.lost(this.isLost)
    if (this.isLost) this.openIfSilent()
  }

  /** Read anew where this page reads and has heard nothing for long: the way may be cut without a word. */
  private openIfSilent () {
    const now = performance.now()
    if (!this.pages.reads || now - this.heardAt < SILENT_MS || now - this.openedAt < PATIENCE_MS) return
    this.close()
    this.settle()
  }

  /** Read what is wanted, if it is this page that reads. */
  private settle () {
    if (!this.pages.reads) return this.close()
    const wanted = this.pages.wanted()
    const kinds = KINDS.filter(kind => wanted.has(kind))
    const url = `/api/events?${new URLSearchParams(kinds.map(kind => ['listen', kind]))}`
    if (this.source && this.source.readyState !== EventSource.CLOSED && this.source.url.endsWith(url)) return
    this.close()
    this.openedAt = performance.now()
    this.source = new EventSource(url)
    this.source.onmessage = event => this.pass(JSON.parse(event.data) as Told)
    // cut off: with nobody to tell the time what was safe may be so no longer
    this.source.onerror = () => {
      this.heardAt = Math.min(this.heardAt, performance.now())
      this.setLost(true)
    }
  }

  private close () {
    this.source?.close()
    this.source = null
  }

  private take (told: Told) {
    this.heardAt = performance.now()
    this.setLost(false)
    this.tell(told)
  }

  private pass (told: Told) {
    this.take(told)
    this.pages.pass(told)
  }
}

import { PAGE, type Schema } from '@/api/client'

export type Told = Schema<'Told'>
export type Kind = Schema<'Shown'>['instrument']
type Message =
  | { what: 'told', told: Told }
  | { what: 'who' | 'wants', id: string, kinds: readonly Kind[] }
  | { what: 'reads', id: string }
  | { what: 'gone', id: string, read: boolean }
const NAME = 'jade-perch'
/** How long a page that reads has to say so; a little more for each, so that not all begin at once. */
const ANSWER_MS = 300
const LOOK_MS = 20_000

/**
 * The pages of this browser and the one of them that reads the stream for all.
 *
 * Pages talk to each other wherever they were opened from, also where a browser grants no locks: on another machine.
 * A page that finds nobody reading reads; of two that do, the one with the smaller name goes on.
 */
export class Pages {
  reads = false
  private readonly channel = 'BroadcastChannel' in window ? new BroadcastChannel(NAME) : null
  private readonly mine = new Set<Kind>()
  private readonly wishes = new Map<string, readonly Kind[]>()
  private readonly unheard = new Set<string>()
  private waiting: ReturnType<typeof setTimeout> | undefined

  /**
   * `heard` is told what the reading page passes on, `changed` when this page is to read, to stop, or to read something
   * else, and `asked` when another page hears nothing.
   */
  constructor (
    private readonly heard: (told: Told) => void,
    private readonly changed: () => void,
    private readonly asked: () => void,
  ) {
    if (this.channel) this.channel.onmessage = event => this.hear(event.data as Message)
    window.addEventListener('pagehide', () => this.leave())
    window.addEventListener('pageshow', event => { if (event.persisted) this.ask() })
    setInterval(() => { if (this.reads) this.look() }, LOOK_MS)
  }

  /** Ask who reads; where nobody answers, this page does. */
  ask () {
    if (!this.channel) return this.begin()
    this.post({ what: 'who', id: PAGE, kinds: [...this.mine] })
    clearTimeout(this.waiting)
    this.waiting = setTimeout(() => this.begin(), ANSWER_MS + Math.random() * ANSWER_MS)
  }

  pass (told: Told) {
    this.post({ what: 'told', told })
  }

  /** Say that this page wants to hear an instrument, or no longer. */
  want (kind: Kind, isWanted: boolean) {
    if (isWanted) this.mine.add(kind)
    else this.mine.delete(kind)
    this.post({ what: 'wants', id: PAGE, kinds: [...this.mine] })
    if (this.reads) this.changed()
  }

  /** Which instruments any page wants. */
  wanted (): Set<Kind> {
    return new Set([...this.mine, ...[...this.wishes.values()].flat()])
  }

  private begin () {
    if (this.reads) return
    this.reads = true
    this.post({ what: 'reads', id: PAGE })
    this.changed()
  }

  private leave () {
    this.post({ what: 'gone', id: PAGE, read: this.reads })
    this.stop()
  }

  private stop () {
    clearTimeout(this.waiting)
    if (!this.reads) return
    this.reads = false
    this.changed()
  }

  /** Forget the wishes of pages that went without a word. */
  private look () {
    const before = this.wishes.size
    for (const id of this.unheard) this.wishes.delete(id)
    for (const id of this.wishes.keys()) this.unheard.add(id)
    if (this.wishes.size < before) this.changed()
    this.post({ what: 'reads', id: PAGE })
  }

  private hear (message: Message) {
    if (message.what === 'told') this.heard(message.told)
    else if (message.what === 'gone') {
      this.wish(message.id, null)
      if (message.read) this.ask()
    } else if (message.what === 'reads') this.yield(message.id)
    else {
      this.wish(message.id, message.kinds)
      if (message.what === 'wants' || !this.reads) return
      this.post({ what: 'reads', id: PAGE })
      this.asked()
    }
  }

  private yield (id: string) {
    if (this.reads && PAGE < id) return this.post({ what: 'reads', id: PAGE })
    this.stop()
    this.post({ what: 'wants', id: PAGE, kinds: [...this.mine] })
  }

  private wish (id: string, kinds: readonly Kind[] | null) {
    this.unheard.delete(id)
    if (kinds) this.wishes.set(id, kinds)
    else this.wishes.delete(id)
    if (this.reads) this.changed()
  }

  private post (message: Message) {
    this.channel?.postMessage(message)
  }
}

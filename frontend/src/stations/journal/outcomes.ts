const ROUND = 'M-5 0a5 5 0 1 0 10 0a5 5 0 1 0 -10 0z'
/** How each outcome is drawn and said: shape and word, not colour alone. `fill` is what is filled of the outline. */
export const OUTCOMES = {
  seen: { word: 'seen', outline: ROUND, fill: ROUND },
  glimpsed: { word: 'glimpsed', outline: ROUND, fill: 'M0 -5a5 5 0 0 1 0 10z' },
  tried: { word: 'tried, not seen', outline: 'M-4 -4L4 4M-4 4L4 -4', fill: '' },
  open: { word: 'to go', outline: ROUND, fill: '' },
} as const
export type State = keyof typeof OUTCOMES

/** The state that goes with a note's outcome; nothing said counts as seen. */
export const stateOf = (outcome: string | null | undefined): State => outcome === 'glimpsed' ? 'glimpsed' : outcome === 'not seen' ? 'tried' : 'seen'

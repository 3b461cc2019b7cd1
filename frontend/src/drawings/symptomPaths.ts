import type { Schema } from '@/api/client'

interface Part { d: string, as: 'line' | 'quiet' | 'full' | 'black' | 'wash' | 'mark' | 'dash' }
const part = (as: Part['as'], d: string): Part => ({ as, d })
const disc = (r: number, x = 0, y = 0) => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`
const TUBE = 'M-38 8L20 -26L30 -9L-28 25z'
const LEGS = 'M0 4L-18 46M0 4L18 46'

/** The lines of each picture of the symptom finder, on a square of 100 around the middle. */
export const SYMPTOM_PATHS: Record<Schema<'Cause'>['picture'], readonly Part[]> = {
  black: [part('black', disc(38))],
  grey: [part('wash', disc(38))],
  shadow: [part('wash', disc(38)), part('black', disc(11, 4, -3))],
  doughnut: [part('wash', disc(34)), part('black', disc(13))],
  turned: [part('quiet', disc(40)), part('line', 'M-12 -24H12V0L0 14L-12 0z'), part('mark', 'M30 -14a30 30 0 0 1 0 28M30 14l-7 -5M30 14l6 -6')],
  shake: [part('line', TUBE), part('line', LEGS), part('mark', 'M-44 -14q5 -6 0 -12M38 6q6 6 0 12M-36 -4q5 -6 0 -12')],
  drop: [part('dash', TUBE), part('line', 'M-34 -18L30 4L23 22L-41 0z'), part('line', LEGS), part('mark', 'M36 -28V-8M36 -8l-6 -7M36 -8l6 -7')],
  drift: [part('quiet', disc(40)), part('full', disc(4, -18, 6)), part('mark', 'M-6 4L26 -6M26 -6l-9 -3M26 -6l-6 7')],
  blur: [part('quiet', disc(40)), part('dash', disc(22)), part('dash', disc(13))],
  dot: [part('line', 'M-34 -26H34V30H-34z'), part('dash', disc(7, 0, 2))],
  cross: [part('quiet', disc(40)), part('full', disc(5)), part('line', 'M-26 0H26M0 -26V26')],
  fog: [part('line', disc(34)), part('mark', 'M-20 -6q7 -9 14 0t14 0t12 0M-20 12q7 -9 14 0t14 0t12 0')],
  cap: [part('line', 'M-40 -14H14V14H-40z'), part('mark', 'M22 -20V20'), part('mark', 'M30 0H44M44 0l-6 -6M44 0l-6 6')],
  head: [part('line', 'M18 -22H40V22H18z'), part('wash', 'M-40 0q20 -22 40 0q-20 22 -40 0z'), part('full', disc(6, -20, 0)), part('mark', 'M-20 30V42M-20 42l-6 -6M-20 42l6 -6')],
  finder: [part('line', disc(36)), part('quiet', 'M-36 0H-8M8 0H36M0 -36V-8M0 8V36'), part('full', disc(4, 14, 12))],
  eyepiece: [part('line', 'M-16 -32H16V2H-16zM-11 2H11V34H-11z'), part('quiet', 'M-16 -22H16')],
  barlow: [part('line', 'M-12 -38H12V-12H-12zM-9 -12H9V34H-9z'), part('mark', 'M-9 18q9 -8 18 0')],
  focuser: [part('line', 'M-30 -12H16V12H-30z'), part('wash', disc(14, 4, 28)), part('mark', 'M24 20a22 22 0 0 1 -8 22M16 42l9 -1M16 42l1 -9')],
  knob: [part('wash', disc(22)), part('line', 'M0 -22V22M-22 0H22'), part('mark', 'M32 -14a34 34 0 0 1 0 28M32 14l-8 -4M32 14l4 -8')],
  clamp: [part('line', disc(18, -10, 0)), part('line', 'M8 0H40'), part('full', disc(6, 40, 0)), part('mark', 'M30 -26a30 30 0 0 1 12 18')],
  legs: [part('line', 'M0 -30L-34 42M0 -30L34 42M0 -30V42'), part('mark', 'M-20 12H20')],
  glasses: [part('line', `${disc(15, -22, 0)}${disc(15, 22, 0)}`), part('line', 'M-7 0H7M-37 -2L-46 -12M37 -2L46 -12')],
  air: [part('quiet', disc(40)), part('wash', disc(16)), part('mark', 'M-36 -24q6 8 12 0t12 0t12 0t12 0t12 0M-36 28q6 8 12 0t12 0t12 0t12 0t12 0')],
  mirror: [part('line', 'M-34 30q34 -14 68 0'), part('line', 'M-10 -26L10 -14'), part('dash', 'M-26 24V-34M26 24V-34M0 -20V22')],
  base: [part('line', 'M-36 30L0 -20L36 30z'), part('wash', disc(11, 0, 12)), part('full', disc(4, 6, 9))],
  cells: [part('line', disc(26)), part('line', 'M-8 0H8M0 -8V8')],
  day: [part('line', TUBE), part('line', LEGS), part('quiet', 'M40 46V20L46 12L46 46')],
}

import { defineStore } from 'pinia'
import { computed, shallowRef, watchEffect } from 'vue'
import { useKept } from './kept'

export const REGIMES = ['daylight', 'dusk', 'dark'] as const
export type Regime = typeof REGIMES[number]
export const REGIME_WORDS: Record<Regime, string> = { daylight: 'Daylight', dusk: 'Dusk', dark: 'Dark' }

/** So far from its middle a finger still means a thing, in px. */
export const FINGER_PX = 24

/** The light regime and the own brightness of the page. */
export const useRegime = defineStore('regime', () => {
  const chosen = useKept<Regime>('regime', 'daylight')
  const brightnessPercent = useKept('brightness', 100)
  /** At the eyepiece the page begins dark until it is known whether it is night. */
  const isHeldDark = shallowRef(document.documentElement.dataset.held === 'dark')
  const night = useKept('eyepiece-is-night', true)
  const regime = computed<Regime>({
    get: () => isHeldDark.value ? 'dark' : chosen.value,
    set: value => {
      isHeldDark.value = false
      chosen.value = value
    },
  })
  /** It is known now whether it is night; kept, so that the next page begins right. */
  function release (isNight?: boolean) {
    isHeldDark.value = false
    if (isNight !== undefined) night.value = isNight
  }

  watchEffect(() => { document.documentElement.dataset.regime = regime.value })
  const paneColour = computed(() => {
    const level = Math.round(brightnessPercent.value * 2.55)
    return regime.value === 'dark' ? `rgb(${level} 0 0)` : `rgb(${level} ${level} ${level})`
  })
  /** How large at least what can be pressed in a drawing is, in px; in the dark for a finger in a glove. */
  const leastPx = computed(() => regime.value === 'dark' ? 2 * FINGER_PX : FINGER_PX)
  const paneIsNeeded = computed(() => regime.value === 'dark' || brightnessPercent.value < 100)

  /** Dark by itself; the next key leads back to what it was before. */
  let before: Regime | null = null
  function darken () {
    before = chosen.value
    chosen.value = 'dark'
  }
  function next () {
    const back = before
    before = null
    if (back && chosen.value === 'dark') regime.value = back
    else regime.value = REGIMES[(REGIMES.indexOf(regime.value) + 1) % REGIMES.length] ?? 'daylight'
  }
  return { regime, chosen, release, darken, brightnessPercent, paneColour, paneIsNeeded, leastPx, next }
})

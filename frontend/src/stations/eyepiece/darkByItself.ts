import { computed, onBeforeUnmount, watch } from 'vue'
import { useKept } from '@/shell/kept'
import { useNotices } from '@/shell/notices'
import { useRegime } from '@/shell/regime'
import { useEvening } from '@/stores/evening'
import { useTicking } from '@/stores/ticking'

/** Whether the window is to be dark by now: from the end of civil dusk to the beginning of civil dawn. */
export function isDarkTime (lights: readonly { light: string, start_utc: string, end_utc: string }[], nowMs: number): boolean {
  const span = lights.find(one => Date.parse(one.start_utc) <= nowMs && nowMs < Date.parse(one.end_utc))
  return span !== undefined && span.light !== 'day' && span.light !== 'civil'
}

/** Dark by itself after civil dusk, once an evening; whoever goes back to the light is left there. */
export function useDarkByItself () {
  const evening = useEvening()
  const ticking = useTicking()
  const regime = useRegime()
  const notices = useNotices()
  const darkened = useKept('dark-by-itself', '')
  const isDark = computed(() => {
    const night = evening.evening?.night
    return night ? isDarkTime(night.lights, ticking.nowMs) : null
  })
  const evenings = computed(() => `${evening.evening?.night?.date} ${evening.evening?.site?.id} ${evening.evening?.rehearsal}`)
  watch([isDark, evenings], ([now, name]) => {
    if (now === null) return
    if (now && darkened.value !== name) {
      darkened.value = name
      if (regime.chosen !== 'dark') {
        regime.darken()
        notices.say('It is dark: red light only from now on. Key n leads back.')
      }
    }
    regime.release(now)
  }, { immediate: true })
  onBeforeUnmount(() => regime.release())
}

import { defineStore } from 'pinia'
import { computed } from 'vue'
import { call } from '@/api/client'
import { ownZone } from '@/shell/time'
import { useAsked } from '@/shell/useAsked'

/** Every time zone by name, asked for once somebody looks for one; this browser's own until then. */
export const useZones = defineStore('zones', () => {
  const own = computed(ownZone)
  const { answer, load: ask } = useAsked(() => call<string[]>('/evening/zones'))
  const all = computed(() => answer.value ?? [own.value])
  async function load () {
    if (!answer.value) await ask()
  }
  return { own, all, load }
})

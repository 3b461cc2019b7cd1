import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useNotices } from '@/shell/notices'
import { useAsked } from '@/shell/useAsked'
import { useEvening } from './evening'

export type Weather = Schema<'NightWeather'>
export type JudgedHour = Schema<'JudgedHour'>
export type TypedValues = Partial<Schema<'TypedValues'>>

const VALUES = ['cloud_percent', 'wind_m_s', 'humidity_percent', 'air_c', 'steadiness', 'transparency'] as const
/** What of an hour somebody typed, as the form sends it. */
export function typedOf (hour: Schema<'WeatherHour'>): TypedValues {
  return Object.fromEntries(VALUES.map(key => [key, hour.typed?.includes(key) ? hour[key] : null]))
}

/** The night's weather: what its hours are good for, and the ways to say better. */
export const useWeather = defineStore('weather', () => {
  const evening = useEvening()
  const notices = useNotices()
  const { answer, refusal, isAsked, load } = useAsked(() => call<Weather | null>('/plan/weather'), ['evening', 'kit', 'clock'])
  watch([() => evening.evening?.night?.date, () => evening.evening?.site?.id], () => void load())
  const outlook = computed(() => answer.value?.outlook ?? null)

  /** Type values over an hour, or with none of them forget what was typed; what is not named is left out. */
  async function type (hourUtc: string, values: TypedValues) {
    const json = Object.fromEntries([...VALUES, 'version' as const].map(key => [key, values[key] ?? null]))
    await call<void>(`/plan/weather/hours/${hourUtc}`, { method: 'PUT', json })
  }
  async function takeBack (hour: Schema<'WeatherHour'>) {
    if (await notices.attempt(() => type(hour.hour_utc, { version: hour.typed_version }))) {
      notices.say('The hour is as it was before.', () => type(hour.hour_utc, typedOf(hour)))
    }
  }
  async function forget (id: number) {
    const file = `/plan/weather/files/${id}`
    if (await notices.attempt(() => call<void>(file, { method: 'DELETE' }))) {
      notices.say('The weather file is taken away.', () => call<void>(`${file}/restore`, { method: 'POST' }))
    }
  }
  return { answer, isAsked, refusal, outlook, load, type, takeBack, forget }
})

import { defineStore } from 'pinia'
import { computed } from 'vue'
import { convert } from '@/shell/quantity'
import { useEvening } from './evening'

/** What a field measures, where people may wish another unit; what optics is labelled with stays in mm. */
export type Measure = 'hand' | 'ground' | 'air' | 'wind'

/** The units people chose, for fields and drawings; sentences come from the server in them already. */
export const useUnits = defineStore('units', () => {
  const evening = useEvening()
  const isInch = computed(() => evening.evening?.choice.length_unit === 'inch')
  const isFahrenheit = computed(() => evening.evening?.choice.temperature_unit === 'fahrenheit')
  /** The unit a field shows. */
  function shown (measure: Measure | undefined, unit: string): string {
    if (measure === 'hand' && isInch.value) return 'in'
    if (measure === 'ground' && isInch.value) return 'ft'
    if (measure === 'wind' && isInch.value) return 'mph'
    return measure === 'air' && isFahrenheit.value ? '°F' : unit
  }
  const heightUnit = computed(() => isInch.value ? 'in' : 'cm')
  const height = (mm: number) => Number(convert(mm, 'mm', heightUnit.value)).toFixed(0)
  const airUnit = computed(() => isFahrenheit.value ? '°F' : '°C')
  const air = (celsius: number) => Number(convert(celsius, '°C', airUnit.value))
  /** Whole degrees, with a real minus and no `-0`. */
  const airWords = (celsius: number) => `${(Math.round(air(celsius)) + 0).toFixed(0).replace('-', '−')}`
  const hand = (mm: number) => isInch.value ? `${Number(convert(mm, 'mm', 'in')).toFixed(1)} in` : `${mm.toFixed(0)} mm`
  const ground = (m: number) => isInch.value ? `${Number(convert(m, 'm', 'ft')).toFixed(0)} ft` : `${m.toFixed(0)} m`
  const windUnit = computed(() => isInch.value ? 'mph' : 'm/s')
  const wind = (speed: number) => Number(convert(speed, 'm/s', windUnit.value))
  const windWords = (speed: number | null) => speed === null ? 'not known' : `${wind(speed).toFixed(0)} ${windUnit.value}`
  return { wind, windWords, airWords, shown, hand, ground, height, heightUnit, air, airUnit }
})

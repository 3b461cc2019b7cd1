import { itemsAt, type Schema } from './client'

export type Telescope = Schema<'Telescope'>
export type Eyepiece = Schema<'Eyepiece'>
export type Amplifier = Schema<'Amplifier'>
export type Diagonal = Schema<'Diagonal'>
export type Finder = Schema<'Finder'>
export type Mount = Schema<'Mount'>
export type LightFilter = Schema<'LightFilter'>
export type Upkeep = Schema<'Upkeep'>
export type Site = Schema<'Site'>
export type Observer = Schema<'Observer'>
export type PlanItem = Schema<'PlanItem'>
export type Observation = Schema<'Observation'>

export const telescopes = itemsAt<Telescope>('/kit/telescopes')
export const eyepieces = itemsAt<Eyepiece>('/kit/eyepieces')
export const amplifiers = itemsAt<Amplifier>('/kit/amplifiers')
export const diagonals = itemsAt<Diagonal>('/kit/diagonals')
export const finders = itemsAt<Finder>('/kit/finders')
export const mounts = itemsAt<Mount>('/kit/mounts')
export const lightFilters = itemsAt<LightFilter>('/kit/light-filters')
export const upkeeps = itemsAt<Upkeep>('/kit/upkeeps')
export const sites = itemsAt<Site>('/evening/sites')
export const observers = itemsAt<Observer>('/evening/observers')
export const planItems = itemsAt<PlanItem>('/plan/items')
export const observations = itemsAt<Observation>('/journal/observations')

import { itemsAt, type Schema } from './client'

export type Telescope = Schema<'Telescope'>
export type Eyepiece = Schema<'Eyepiece'>
export type Amplifier = Schema<'Amplifier'>
export type Site = Schema<'Site'>
export type Observer = Schema<'Observer'>
export type Observation = Schema<'Observation'>

export const telescopes = itemsAt<Telescope>('/kit/telescopes')
export const eyepieces = itemsAt<Eyepiece>('/kit/eyepieces')
export const amplifiers = itemsAt<Amplifier>('/kit/amplifiers')
export const sites = itemsAt<Site>('/evening/sites')
export const observers = itemsAt<Observer>('/evening/observers')
export const observations = itemsAt<Observation>('/journal/observations')

import {
  mdiBriefcaseOutline, mdiEyeOutline, mdiFormatListChecks, mdiLadder, mdiNotebookOutline, mdiSchoolOutline, mdiSpiritLevel,
} from '@mdi/js'
import KitStation from '@/stations/kit/KitStation.vue'

/** The seven stations in the order of the work; the number of each is its key. The first comes with the house. */
export const STATIONS = [
  { name: 'kit', word: 'Kit', icon: mdiBriefcaseOutline, load: async () => ({ default: KitStation }) },
  { name: 'powers', word: 'Powers', icon: mdiLadder, load: () => import('@/stations/powers/PowersStation.vue') },
  { name: 'setup', word: 'Set-up', icon: mdiSpiritLevel, load: () => import('@/stations/setup/SetupStation.vue') },
  { name: 'plan', word: 'Plan', icon: mdiFormatListChecks, load: () => import('@/stations/plan/PlanStation.vue') },
  { name: 'eyepiece', word: 'Eyepiece', icon: mdiEyeOutline, load: () => import('@/stations/eyepiece/EyepieceStation.vue') },
  { name: 'journal', word: 'Journal', icon: mdiNotebookOutline, load: () => import('@/stations/journal/JournalStation.vue') },
  { name: 'practice', word: 'Practice', icon: mdiSchoolOutline, load: () => import('@/stations/practice/PracticeStation.vue') },
] as const

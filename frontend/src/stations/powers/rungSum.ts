import { call } from '@/api/client'
import { useNotices } from '@/shell/notices'
import { useSums, type Sum } from '@/shell/sums'
import { useRungs } from '@/stores/rungs'

export type Figure = 'magnification' | 'true_field' | 'exit_pupil' | 'drift' | 'focal_ratio' | 'nudge' | 'working_aperture' | 'brightness' | 'faintest' | 'dawes' | 'rayleigh' | 'eye_relief' | 'refocus' | 'shadow'

/** Open the sum behind one figure of one rung, of tonight's telescope or of another. */
export function useRungSum () {
  const rungs = useRungs()
  const sums = useSums()
  const notices = useNotices()
  return async (figure: Figure, rung: string, telescopeId: number | null = rungs.ladder?.telescope_id ?? null) => {
    const query = new URLSearchParams({ telescope_id: String(telescopeId), rung, ...rungs.courseQuery() })
    try {
      sums.open = await call<Sum>(`/powers/sums/${figure}?${query}`, { isOnce: true })
    } catch (error) {
      notices.say((error as Error).message)
    }
  }
}

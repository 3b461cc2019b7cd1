import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { asRefusal } from '@/api/client'

interface Notice {
  words: string
  undo?: () => Promise<unknown>
}

/** One line at the bottom of the page, with an undo where something was taken away. */
export const useNotices = defineStore('notices', () => {
  const notice = shallowRef<Notice | null>(null)
  /** How many were said: each has its own time. */
  const count = shallowRef(0)
  function say (words: string, undo?: () => Promise<unknown>) {
    count.value++
    notice.value = undo ? { words, undo } : { words }
  }
  /** Do something; what is refused is said. Gives whether it was done. */
  async function attempt (work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work()
      return true
    } catch (error) {
      say(asRefusal(error).words)
      return false
    }
  }
  async function undo () {
    const taken = notice.value
    notice.value = null
    try {
      await taken?.undo?.()
    } catch (error) {
      if (taken) notice.value = { ...taken, words: `Not undone. ${asRefusal(error).words}` }
    }
  }
  return { notice, count, say, attempt, undo }
})

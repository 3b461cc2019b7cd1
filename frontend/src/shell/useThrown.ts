import { useNotices } from './notices'

/** Throw typed words away and offer them back; `forget` gives how they are brought back. */
export function useThrown (forget: () => () => void): () => void {
  const notices = useNotices()
  return () => {
    const bringBack = forget()
    notices.say('What was typed is thrown away.', async () => bringBack())
  }
}

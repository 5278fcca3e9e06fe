import { useEffect, useRef, useState } from 'react'
import type { Outcome } from '../../api/outbox'
import type { Job } from '../../api/types'
import { useWrite } from '../../ui/useWrite'

const SAVE_AFTER = 500 // ms without a change

/** What is drawn here and kept with the job: saved once the hand rests; drawn elsewhere meanwhile, it is taken over. */
export function useDrawn<Drawn>(
  job: Job,
  recorded: Drawn,
  save: (drawn: Drawn, version: number) => Promise<Outcome>,
): { drawn: Drawn; draw: (drawn: Drawn) => void; trouble: string | null; saved: boolean } {
  const [drawn, draw] = useState(recorded)
  const { trouble, write } = useWrite()
  const version = useRef(job.version)
  version.current = job.version
  const sent = useRef(JSON.stringify(recorded))
  const keep = useRef((next: Drawn) => write(save(next, version.current)))
  keep.current = (next) => write(save(next, version.current))

  useEffect(() => {
    const wanted = JSON.stringify(drawn)
    if (wanted === sent.current) return
    const timer = setTimeout(() => {
      sent.current = wanted
      void keep.current(drawn)
    }, SAVE_AFTER)
    return () => clearTimeout(timer)
  }, [drawn])

  // whoever leaves before the hand has rested loses nothing
  const latest = useRef(drawn)
  latest.current = drawn
  useEffect(() => {
    const flush = () => {
      const wanted = JSON.stringify(latest.current)
      if (wanted === sent.current) return
      sent.current = wanted
      void keep.current(latest.current)
    }
    addEventListener('pagehide', flush)
    return () => {
      removeEventListener('pagehide', flush)
      flush()
    }
  }, [])

  const there = JSON.stringify(recorded)
  const here = JSON.stringify(drawn)
  useEffect(() => {
    if (there === sent.current || here !== sent.current) return
    sent.current = there
    draw(JSON.parse(there) as Drawn)
  }, [there, here])
  return { drawn, draw, trouble, saved: here === there }
}

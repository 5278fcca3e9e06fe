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
  const mine = useRef(new Set<string>())
  const keep = useRef((_: Drawn) => {})
  keep.current = (next) => {
    sent.current = JSON.stringify(next)
    mine.current.add(sent.current)
    void write(save(next, version.current))
  }

  useEffect(() => {
    const wanted = JSON.stringify(drawn)
    if (wanted === sent.current) return
    const timer = setTimeout(() => keep.current(drawn), SAVE_AFTER)
    return () => clearTimeout(timer)
  }, [drawn])

  // whoever leaves before the hand has rested loses nothing
  const latest = useRef(drawn)
  latest.current = drawn
  useEffect(() => {
    const flush = () => {
      if (JSON.stringify(latest.current) !== sent.current) keep.current(latest.current)
    }
    addEventListener('pagehide', flush)
    return () => {
      removeEventListener('pagehide', flush)
      flush()
    }
  }, [])

  // only what comes anew and is none of ours is taken over: an answer to something drawn earlier is late, not news
  const there = JSON.stringify(recorded)
  const here = JSON.stringify(drawn)
  const seen = useRef(there)
  useEffect(() => {
    if (there === seen.current) return
    seen.current = there
    if (mine.current.delete(there) || here !== sent.current) return
    sent.current = there
    draw(JSON.parse(there) as Drawn)
  }, [there, here])
  return { drawn, draw, trouble, saved: here === there }
}

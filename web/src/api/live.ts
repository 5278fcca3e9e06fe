import { useEffect, useState } from 'react'
import { client, deviceId, unwrap } from './client'
import { keys, queryClient } from './queries'
import type { Job } from './types'

const ASK_EVERY = 2_000 // ms, where no stream can be held
/** The news of one's own write is quicker than its answer, which brings the job along: it goes first, ms. */
const OWN_ANSWER_FIRST = 400
const STREAM_AGAIN = 30_000 // ms

/** Keeps a job up to date while it is open, whoever changes it; the names of the others who have it open. */
export function useLive(id: string): readonly string[] {
  const [here, setHere] = useState<readonly string[]>([])
  useEffect(() => {
    let stream: EventSource | undefined
    let asking: ReturnType<typeof setInterval> | undefined
    let again: ReturnType<typeof setTimeout> | undefined
    let looking: ReturnType<typeof setTimeout> | undefined
    const heard = (news: { version: number; here: string[] }) => {
      setHere((old) => (old.join() === news.here.join() ? old : news.here))
      clearTimeout(looking)
      looking = setTimeout(() => {
        const known = queryClient.getQueryData<Job>(keys.job(id))
        if (known && news.version > known.version)
          void queryClient.invalidateQueries({ queryKey: keys.job(id), exact: true })
      }, OWN_ANSWER_FIRST)
    }
    const ask = async () => {
      try {
        const params = { path: { job_id: id }, query: { device: deviceId() } }
        heard(unwrap(await client.GET('/api/v1/jobs/{job_id}/here', { params })))
      } catch {
        setHere([]) // no line: nobody is known to be here
      }
    }
    const open = () => {
      clearInterval(asking)
      stream = new EventSource(`/api/v1/jobs/${id}/live?device=${deviceId()}`)
      stream.onmessage = (event) => heard(JSON.parse(event.data))
      stream.onerror = () => {
        if (stream?.readyState !== EventSource.CLOSED) return // the browser tries again by itself
        clearInterval(asking)
        asking = setInterval(() => void ask(), ASK_EVERY)
        again = setTimeout(open, STREAM_AGAIN)
      }
    }
    open()
    return () => {
      stream?.close()
      clearInterval(asking)
      clearTimeout(again)
      clearTimeout(looking)
    }
  }, [id])
  return here
}

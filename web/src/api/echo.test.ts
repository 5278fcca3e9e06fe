import { describe, expect, it } from 'vitest'
import { aJob } from '../test/fixtures'
import { unheard, withWaiting } from './echo'

const waits = (path: string, body: unknown = {}) => ({
  id: path,
  person: 'ada',
  job: 'job',
  path: `/api/v1/jobs/job/${path}`,
  body,
  says: path,
})
const mark = (id: string, step: string, state: string) => waits(`marks/${id}`, { step, state, at: '' })

describe('what waits on the device', () => {
  it('shows marks at once, the latest of a step', () => {
    const job = withWaiting(aJob(), [
      mark('1', 'unplug', 'done'),
      mark('2', 'gas', 'done'),
      mark('3', 'gas', 'undone'),
    ])
    expect(job.marks.map((row) => [row.step, row.state])).toEqual([['unplug', 'done']])
  })

  it('leaves the job as it is where nothing of the kind waits', () => {
    const job = aJob()
    expect(withWaiting(job, [waits('readings/1')])).toBe(job)
  })

  it('counts what a verdict would hear', () => {
    const facts = ['readings/1', 'findings/2', 'meter/3', 'logs/4', 'vent', 'facts/5/withdrawn']
    expect(unheard([...facts, 'marks/6', 'causes/7', 'record/8'].map((path) => waits(path)))).toBe(
      facts.length,
    )
  })
})

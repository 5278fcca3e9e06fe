import type { Job, Unit, Vocabulary } from '../../api/types'
import { shown } from '../../ui/numbers'

/** Every sentence of the draft line that is heard or read beside the drawing, to be reviewed together. */

const named = (list: readonly { code: string; text: string }[], code: string): string =>
  list.find((entry) => entry.code === code)?.text ?? code

export const phrases = {
  line: (job: Job, vocabulary: Vocabulary, pressure: Unit): string => {
    const points = job.verdict.draft_line.points
      .map((point) => `${named(vocabulary.nodes, point.at)} ${shown(point.pressure, pressure)}`)
      .join(', ')
    return `Static pressure from the room to outdoors. ${job.verdict.headline.text} ${points ? `Measured: ${points}.` : 'Nothing measured yet.'}`
  },
  segment: (name: string, percent: number): string =>
    percent > 0 ? `${name}, ${percent} % likely to be where it is held up` : `${name}, not suspect`,
  suspect: (percent: number): string => (percent >= 50 ? 'likely' : percent >= 15 ? 'suspect' : ''),
  branches: (count: number): string => `dotted: ${count} ways it could go`,
  flow: (now: string, healthy: string): string => `${now} of ${healthy} healthy through the outlet`,
}

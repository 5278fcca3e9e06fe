import { t } from '@lingui/core/macro'
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
    return t`Static pressure from the room to outdoors. ${job.verdict.headline.text} ${points ? t`Measured: ${points}.` : t`Nothing measured yet.`}`
  },
  branches: (count: number): string => t`dotted: ${count} ways it could go`,
}

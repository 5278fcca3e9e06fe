import type { MessageDescriptor } from '@lingui/core'
import { msg, t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { type Wording, worded } from '../../app/language'
import { Dialog } from '../../ui/Dialog'

const KEYS: readonly [Wording, MessageDescriptor][] = [
  ['0 – 9', msg`into the field of the check in sight, or its result of that number`],
  ['g 1 – 9', msg`go to a stage`],
  ['n', msg`what comes next`],
  ['r', msg`a new reading`],
  [msg`Space`, msg`step done`],
  ['u', msg`undo`],
  ['t', msg`the tray, at Open and Close`],
  ['c', msg`count this step: digits answer`],
  ['/', msg`find a check, a step, a part, a job`],
  ['← →', msg`walk along the draft line, when it has the focus`],
  [msg`Enter`, msg`save what is typed`],
  [msg`Esc`, msg`out of a field; then back one`],
  ['?', msg`this list`],
]

export function KeysDialog({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title={t`Keys`} onClose={onClose}>
      <dl className="grid grid-cols-[6rem_1fr] gap-y-2">
        {KEYS.map(([key, does]) => (
          <div key={worded(key)} className="contents">
            <dt>
              <kbd className="border-base-300 rounded-md border px-2 py-0.5">{worded(key)}</kbd>
            </dt>
            <dd>{worded(does)}</dd>
          </div>
        ))}
      </dl>
      <p className="text-soft mt-4 text-sm">
        <Trans>Single keys sleep while you type. They can be turned off under your initials.</Trans>
      </p>
    </Dialog>
  )
}

import { Dialog } from '../../ui/Dialog'

const KEYS: readonly [string, string][] = [
  ['1 – 9', 'go to a stage'],
  ['n', 'what comes next'],
  ['r', 'a new reading'],
  ['Space', 'step done'],
  ['u', 'undo'],
  ['t', 'the tray, at Open and Close'],
  ['c', 'count this step: digits answer'],
  ['/', 'find a job'],
  ['← →', 'walk along the draft line, when it has the focus'],
  ['Esc', 'back one'],
  ['?', 'this list'],
]

export function KeysDialog({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title="Keys" onClose={onClose}>
      <dl className="grid grid-cols-[6rem_1fr] gap-y-2">
        {KEYS.map(([key, does]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="border-base-300 rounded-md border px-2 py-0.5">{key}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <p className="text-soft mt-4 text-sm">
        Single keys sleep while you type. They can be turned off under your initials.
      </p>
    </Dialog>
  )
}

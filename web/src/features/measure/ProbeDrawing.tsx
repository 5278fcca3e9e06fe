import type { MessageDescriptor } from '@lingui/core'
import { msg, t } from '@lingui/core/macro'
import type { Check } from '../../api/types'
import { worded } from '../../app/language'
import { ActDrawing } from './ActDrawing'

/** Where the probe, the eye or the hand goes: a machine cut open, from the side, with the air's way through it. */

const PLACES: Record<string, { x: number; y: number; words: MessageDescriptor }> = {
  room: { x: 14, y: 84, words: msg`room` },
  inlet: { x: 40, y: 50, words: msg`heater` },
  drum: { x: 92, y: 62, words: msg`drum` },
  lint_screen: { x: 142, y: 92, words: msg`behind the screen` },
  lint_duct: { x: 150, y: 124, words: msg`before the wheel` },
  blower: { x: 168, y: 140, words: msg`wheel` },
  exhaust_pipe: { x: 214, y: 141, words: msg`outlet collar` },
  transition: { x: 262, y: 112, words: msg`transition, at the wall` },
  run: { x: 322, y: 62, words: msg`before the hood` },
  hood: { x: 356, y: 56, words: msg`hood` },
}

export function ProbeDrawing({ check }: { check: Check }) {
  const place = PLACES[check.node] ?? PLACES.room
  if (!place) return null
  const flip = place.x > 240
  return (
    <figure data-act className="m-0 flex items-center gap-2 md:block">
      <svg
        viewBox="0 0 380 176"
        className="max-h-[88px] min-w-0 flex-1 md:max-h-[108px] md:w-full"
        role="img"
        aria-label={t`Where: ${worded(place.words)}`}
      >
        <line x1="0" x2="276" y1="162" y2="162" className="stroke-base-300" strokeWidth="2" />
        <rect
          x="30"
          y="20"
          width="172"
          height="142"
          rx="8"
          className="stroke-base-content fill-none"
          strokeWidth="2"
        />
        <rect
          x="34"
          y="36"
          width="14"
          height="40"
          rx="3"
          className="stroke-base-300 fill-none"
          strokeWidth="2"
        />
        <circle cx="92" cy="76" r="42" className="stroke-base-300 fill-none" strokeWidth="2" />
        <path d="M138 66v26h14v26" className="stroke-base-300 fill-none" strokeWidth="2" />
        <path d="M136 84l20-6" className="stroke-base-300" strokeWidth="2" strokeDasharray="3 3" />
        <circle cx="168" cy="140" r="14" className="stroke-base-300 fill-none" strokeWidth="2" />
        <rect x="276" y="14" width="10" height="162" className="fill-base-300" />
        <path
          d="M10 84C22 84 26 56 42 56c22 0 30 22 52 22 30 0 44 0 54 18 4 14 4 40 20 44h44c34 0 30-28 58-28h14c24 0 20-50 44-50h26"
          className="fill-none stroke-[var(--healthy)]"
          strokeWidth="5"
          strokeLinecap="round"
          opacity="0.55"
        />
        <path
          d="M346 46l22 0-6 26"
          className="stroke-base-content fill-none"
          strokeWidth="2.5"
          strokeLinejoin="round"
        />
        <line
          x1={place.x}
          y1={place.y}
          x2={place.x + (flip ? -30 : 34)}
          y2={place.y - 30}
          className="stroke-[var(--now)]"
          strokeWidth="3"
        />
        <circle
          cx={place.x}
          cy={place.y}
          r="7"
          className="fill-base-100 stroke-[var(--now)]"
          strokeWidth="4"
        />
        <text
          x={place.x + (flip ? -34 : 38)}
          y={Math.max(place.y - 30, 12)}
          textAnchor={flip ? 'end' : 'start'}
          fontSize="15"
          fontWeight="700"
          className="fill-base-content"
          paintOrder="stroke"
          stroke="var(--color-base-100)"
          strokeWidth="5"
        >
          {worded(place.words)}
        </text>
      </svg>
      <figcaption className="flex flex-wrap items-start gap-x-3 gap-y-1 text-sm md:mt-1">
        <ActDrawing check={check} />
        <span className="hidden min-w-[10rem] flex-1 leading-snug md:inline">{check.how}</span>
      </figcaption>
    </figure>
  )
}

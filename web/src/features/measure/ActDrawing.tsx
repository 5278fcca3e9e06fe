import { msg, t } from '@lingui/core/macro'
import type { ReactNode } from 'react'
import type { Check } from '../../api/types'
import { type Wording, worded } from '../../app/language'

/**
 * What the hands do, beside where: first what is changed for the check (a swap), then how it is sensed. Both follow
 * from the check's own row, so a new check brings its drawing along.
 */
export function ActDrawing({ check }: { check: Check }) {
  // a row of a release newer than this page may have none yet
  const senses: Partial<Record<string, ActName[]>> = SENSES
  const swaps: Partial<Record<string, ActName>> = SWAPS
  const acts = [swaps[check.swap ?? ''] ?? [], senses[check.instrument_code] ?? []].flat()
  if (acts.length === 0) return null
  return (
    <div
      className="flex gap-2"
      role="img"
      aria-label={t`How: ${acts.map((act) => worded(ACTS[act].words)).join(t`, then `)}`}
    >
      {acts.map((act) => (
        <svg key={act} viewBox="0 0 96 96" className="border-base-300 h-20 w-20 rounded-lg border">
          {ACTS[act].draws}
        </svg>
      ))}
    </div>
  )
}

const THING = {
  className: 'stroke-base-content fill-none',
  strokeWidth: 2.5,
  strokeLinecap: 'round',
} as const
const FAINT = { className: 'stroke-base-300 fill-none', strokeWidth: 2.5, strokeLinecap: 'round' } as const
const AIR = {
  className: 'fill-none stroke-[var(--healthy)]',
  strokeWidth: 3,
  strokeLinecap: 'round',
} as const
const HAND = { className: 'fill-none stroke-[var(--now)]', strokeWidth: 3, strokeLinecap: 'round' } as const

const PIPE = <path d="M6 62h84M6 86h84" {...THING} />
const STREAM = <path d="M10 74h30m-6-5 6 5-6 5" {...AIR} />

type Act = { words: Wording; draws: ReactNode }

const ACTS = {
  vane: {
    words: msg`the anemometer square in the stream`,
    draws: (
      <>
        <path d="M6 30h84M6 78h84" {...THING} />
        <path d="M10 44h22m-6-5 6 5-6 5M10 64h22m-6-5 6 5-6 5" {...AIR} />
        <ellipse cx="56" cy="54" rx="9" ry="20" {...HAND} />
        <path d="M56 34v40M48 46l16 16M64 46 48 62M56 34V8" {...HAND} />
      </>
    ),
  },
  tap: {
    words: msg`the tube flush and square on its tap, never facing the stream`,
    draws: (
      <>
        {PIPE}
        {STREAM}
        <path d="M60 62V42c0-14 14-8 14-22" {...HAND} />
        <rect x="58" y="4" width="32" height="20" rx="4" {...THING} />
        <path d="M66 18a9 9 0 0 1 16 0M74 18l5-6" {...HAND} />
      </>
    ),
  },
  waterTube: {
    words: msg`a hose half full of water on the tap; read how far the two sides stand apart`,
    draws: (
      <>
        {PIPE}
        {STREAM}
        <path d="M56 62V8h10M66 8v30c0 12 18 12 18 0V6" {...THING} />
        <path d="M66 30v8c0 12 18 12 18 0V18" {...AIR} />
        <path d="M90 18h-4M70 30h-2M92 18v12" {...HAND} />
      </>
    ),
  },
  bag: {
    words: msg`a bag pressed flat, held round the end; count the seconds until it is full`,
    draws: (
      <>
        <path d="M4 40h22M4 58h22" {...THING} />
        <path d="M8 49h14m-5-4 5 4-5 4" {...AIR} />
        <path d="M26 36c26-30 62-16 62 13S52 92 26 62z" {...HAND} />
      </>
    ),
  },
  watch: {
    words: msg`the watch`,
    draws: (
      <>
        <circle cx="48" cy="54" r="32" {...THING} />
        <path d="M48 54V32M48 54l15 9" {...HAND} />
        <path d="M42 8h12M48 8v14" {...THING} />
      </>
    ),
  },
  thermometer: {
    words: msg`the probe in the middle of the stream, touching nothing`,
    draws: (
      <>
        {PIPE}
        {STREAM}
        <path d="M62 12v62" {...HAND} />
        <circle cx="62" cy="74" r="3" {...HAND} />
        <path d="M74 50c-5-6 5-8 0-15s5-8 0-15" {...AIR} />
      </>
    ),
  },
  clamp: {
    words: msg`the clamp round one wire alone`,
    draws: (
      <>
        <path d="M34 4v88M62 4v88" {...THING} />
        <ellipse cx="34" cy="44" rx="18" ry="13" {...HAND} />
        <path d="M52 44h14l22 8" {...HAND} />
      </>
    ),
  },
  meter: {
    words: msg`one wire off, a probe on each side of the part`,
    draws: (
      <>
        <path d="M4 70h22M70 70h4" {...THING} />
        <rect x="26" y="60" width="44" height="20" rx="4" {...THING} />
        <path d="M80 60c6-4 10-10 12-20" {...FAINT} strokeDasharray="4 5" />
        <path d="M28 58 22 26M68 58l6-32" {...HAND} />
        <rect x="30" y="6" width="36" height="24" rx="4" {...THING} />
      </>
    ),
  },
  volts: {
    words: msg`a probe in each slot, one hand, live`,
    draws: (
      <>
        <rect x="14" y="34" width="68" height="56" rx="10" {...THING} />
        <path d="M36 52v16M60 52v16M48 76v6" {...THING} />
        <path d="M36 58 24 8M60 58 72 8" {...HAND} />
      </>
    ),
  },
  tachometer: {
    words: msg`a mark on the wheel, the tachometer through the opening`,
    draws: (
      <>
        <circle cx="40" cy="56" r="32" {...THING} />
        <path d="M40 56V24M40 56l22 22M40 56 18 78" {...FAINT} />
        <path d="M52 36l8-8" className="stroke-[var(--now)]" strokeWidth="7" />
        <path d="M92 6 64 28" {...HAND} strokeDasharray="5 5" />
      </>
    ),
  },
  hand: {
    words: msg`the back of a hand, a span away`,
    draws: (
      <>
        <path d="M6 34h30m-6-5 6 5-6 5M6 52h30m-6-5 6 5-6 5M6 70h30m-6-5 6 5-6 5" {...AIR} />
        <path
          d="M90 84V48c0-6-4-8-8-6l-6 3V22c0-8-10-8-10 0v-6c0-8-10-8-10 0v8c0-7-9-7-9 1v30c0 16 8 22 12 29"
          {...HAND}
        />
      </>
    ),
  },
  finger: {
    words: msg`lift the flap with a finger, let it go`,
    draws: (
      <>
        <path d="M10 20h40v60H10" {...THING} />
        <path d="M50 20v56" {...FAINT} strokeDasharray="4 5" />
        <path d="M50 20 74 66" {...THING} />
        <path d="M92 92 66 58c-4-6 4-10 8-5l14 16" {...HAND} />
      </>
    ),
  },
  eye: {
    words: msg`look`,
    draws: (
      <>
        <path d="M8 50c20-30 60-30 80 0-20 28-60 28-80 0z" {...HAND} />
        <circle cx="48" cy="49" r="12" {...THING} />
      </>
    ),
  },
  lamp: {
    words: msg`lamp in, and look along its beam`,
    draws: (
      <>
        <path d="M6 40h20l10-8v32l-10-8H6z" {...THING} />
        <path d="M42 36 90 14M44 48h46M42 60l48 22" {...HAND} />
      </>
    ),
  },
  nose: {
    words: msg`smell, and look for damp and lint`,
    draws: (
      <>
        <path d="M36 10c0 26-22 36-18 52 2 8 14 8 24 6" {...HAND} />
        <path d="M56 74c-6-8 6-12 0-20s6-12 0-20M76 74c-6-8 6-12 0-20s6-12 0-20" {...AIR} />
      </>
    ),
  },
  phone: {
    words: msg`a phone held still, low by the panel`,
    draws: (
      <>
        <rect x="52" y="10" width="34" height="66" rx="6" {...HAND} />
        <path d="M64 68h10" {...HAND} />
        <path d="M40 26c-8 10-8 24 0 34M26 16c-14 16-14 38 0 54" {...AIR} />
      </>
    ),
  },
  ear: {
    words: msg`an ear close, hands away from what moves`,
    draws: (
      <>
        <path
          d="M66 86c14-6 6-24 16-38C94 26 76 8 58 12 44 15 38 26 40 38M56 40c0-10 16-12 16 0 0 8-10 10-8 20"
          {...HAND}
        />
        <path d="M28 34c-6 8-6 20 0 28M16 26c-10 14-10 30 0 44" {...AIR} />
      </>
    ),
  },
  scale: {
    words: msg`the load on a house scale`,
    draws: (
      <>
        <rect x="10" y="66" width="76" height="20" rx="5" {...THING} />
        <path d="M40 76h16" {...HAND} />
        <path d="M22 64c-4-22 10-34 26-34s30 12 26 34z" {...THING} />
      </>
    ),
  },
  water: {
    words: msg`water on the mesh: through, or standing?`,
    draws: (
      <>
        <path d="M10 60h76M10 68h76M18 60v8M32 60v8M46 60v8M60 60v8M74 60v8" {...THING} />
        <path d="M48 10c-10 14-14 20-14 26a14 14 0 0 0 28 0c0-6-4-12-14-26z" {...AIR} />
        <path d="M34 78v10M60 78v10" {...AIR} strokeDasharray="3 5" />
      </>
    ),
  },
  paper: {
    words: msg`a strip of paper: is it drawn in?`,
    draws: (
      <>
        <path d="M6 66h34M58 66h32" {...THING} />
        <path d="M44 8c12 14-6 26 4 38 6 8 0 18 2 34" {...HAND} />
        <path d="M28 52c8 0 14 6 16 16M70 52c-8 0-12 6-14 16" {...AIR} />
      </>
    ),
  },
  question: {
    words: msg`ask`,
    draws: (
      <>
        <path d="M12 14h72v48H46L28 80V62H12z" {...THING} />
        <path d="M40 30c2-10 20-8 17 3-2 6-9 6-9 13M48 53v1" {...HAND} />
      </>
    ),
  },
  tape: {
    words: msg`a tape along the run, bends counted`,
    draws: (
      <>
        <path d="M6 74h50c14 0 18-8 18-20V8M6 90h60c20 0 24-12 24-30V8" {...THING} />
        <path d="M8 60h46M12 55v10M24 55v10M36 55v10M48 55v10" {...HAND} />
      </>
    ),
  },
  screenOut: {
    words: msg`the screen out, one minute at most`,
    draws: (
      <>
        <path d="M8 58h26M62 58h26M34 58v30M62 58v30" {...THING} />
        <path d="M38 40V6h20v34z" {...THING} />
        <path d="M38 16h20M38 26h20" {...FAINT} />
        <path d="M48 56V44M74 36V12m-6 8 6-8 6 8" {...HAND} />
      </>
    ),
  },
  flapHeld: {
    words: msg`the flap held full open`,
    draws: (
      <>
        <path d="M6 28h40v52H6" {...THING} />
        <path d="M46 28 88 14" {...THING} />
        <path d="M14 54h44m-7-6 7 6-7 6" {...AIR} />
        <path d="M84 52 72 24m-7 4 7-4 6 6" {...HAND} />
      </>
    ),
  },
  ventOff: {
    words: msg`the transition drawn off the collar`,
    draws: (
      <>
        <path d="M4 20h22v56H4" {...THING} />
        <path d="M26 36h14M26 60h14" {...THING} />
        <path d="M62 34h8l4 4 4-4 4 4 8-4M62 62h8l4-4 4 4 4-4 8 4M62 34v28" {...THING} />
        <path d="M30 48h22m-6-5 6 5-6 5" {...AIR} />
        <path d="M58 84h28m-7-6 7 6-7 6" {...HAND} />
      </>
    ),
  },
  partedAtWall: {
    words: msg`parted at the wall, the transition left on`,
    draws: (
      <>
        <path d="M80 4v30M80 62v30" className="stroke-base-300" strokeWidth="10" />
        <path d="M4 34h8l4 4 4-4 4 4 8-4h14M4 62h8l4-4 4 4 4-4 8 4h14" {...THING} />
        <path d="M70 36h22M70 60h22" {...THING} />
        <path d="M14 48h42m-7-6 7 6-7 6" {...AIR} />
        <path d="M58 84H30m7-6-7 6 7 6" {...HAND} />
      </>
    ),
  },
  pulledOut: {
    words: msg`the machine one step forward, vent still on`,
    draws: (
      <>
        <path d="M86 6v84" className="stroke-base-300" strokeWidth="10" />
        <rect x="22" y="24" width="34" height="60" rx="4" {...THING} />
        <path d="M56 70h4l4-6 4 6 4-6 8 3" {...THING} />
        <path d="M30 10H6m7-6-7 6 7 6" {...HAND} />
      </>
    ),
  },
  doorOpen: {
    words: msg`a door or window of the room opened`,
    draws: (
      <>
        <path d="M14 90V8h46v82" {...THING} />
        <path d="M14 8l26 12v70L14 90" {...THING} />
        <path d="M88 50H66m7-6-7 6 7 6" {...AIR} />
      </>
    ),
  },
} satisfies Record<string, Act>

type ActName = keyof typeof ACTS

const SWAPS: Record<NonNullable<Check['swap']>, ActName> = {
  screen_out: 'screenOut',
  flap_held: 'flapHeld',
  vent_off: 'ventOff',
  parted_at_wall: 'partedAtWall',
  transition_eased: 'pulledOut',
  room_open: 'doorOpen',
}

const SENSES: Record<Check['instrument_code'], ActName[]> = {
  vane_anemometer: ['vane'],
  manometer: ['tap'],
  water_tube: ['waterTube'],
  bag_and_watch: ['bag', 'watch'],
  thermometer: ['thermometer'],
  clamp_meter: ['clamp'],
  multimeter: ['meter'],
  voltmeter: ['volts'],
  tachometer: ['tachometer'],
  watch: ['watch'],
  hand: ['hand'],
  finger: ['finger'],
  eye: ['eye'],
  eye_lamp: ['lamp'],
  eye_nose: ['nose'],
  eye_ear: ['eye', 'ear'],
  eye_watch: ['eye', 'watch'],
  ear: ['ear'],
  microphone: ['phone'],
  hand_ear: ['hand', 'ear'],
  hand_scale: ['scale'],
  scale: ['scale'],
  water: ['water'],
  paper: ['paper'],
  question: ['question'],
  tape: ['tape'],
}

import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import { useState } from 'react'
import { useCodeProfiles } from '../../api/queries'
import { newId } from '../../api/uuid'
import { keepCodeProfile } from '../../api/writes'
import { useSignedIn } from '../../app/signedIn'
import { Button } from '../../ui/Button'
import { Choice } from '../../ui/Choice'
import { Dialog } from '../../ui/Dialog'
import { Field } from '../../ui/Field'
import { asNumber } from '../../ui/numbers'
import { Trouble } from '../../ui/Trouble'
import type { OwnProfile, Vent } from './run'

const OWN = 'own:'
const ADD = 'add'

type Props = {
  job: string
  unit: 'ft' | 'm'
  value: Vent['code_profile']
  onChange: (profile: Vent['code_profile']) => void
}

/** Which figures the run is held against: ours, or the workshop's own; a run keeps its copy of the latter. */
export function HeldAgainst({ job, unit, value, onChange }: Props) {
  const { me, vocabulary } = useSignedIn()
  const kept = useCodeProfiles().data ?? []
  const [editing, setEditing] = useState<{ id: string; profile: OwnProfile } | null>(null)
  const own = kept.map((row) => ({ id: row.id, profile: row.document as OwnProfile }))
  const title = typeof value === 'object' ? value.title : null
  const current = own.find((row) => row.profile.title === title)
  const may = me.may.includes('keep_code_profiles')
  const options: [string, string][] = [
    ...vocabulary.code_profiles.map((profile): [string, string] => [profile.code, profile.text]),
    ...own.map((row): [string, string] => [OWN + row.id, row.profile.title]),
    ...(title && !current ? [[OWN, title] as [string, string]] : []),
    ...(may ? [[ADD, t`+ own figures`] as [string, string]] : []),
  ]
  const pick = (code: string) => {
    if (code === ADD) setEditing({ id: newId(), profile: blank(unit) })
    else if (code.startsWith(OWN)) onChange(own.find((row) => OWN + row.id === code)?.profile ?? value)
    else onChange(code)
  }
  return (
    <>
      <Choice
        title={t`Held against`}
        options={options}
        value={title ? OWN + (current?.id ?? '') : String(value ?? vocabulary.code_profiles[0]?.code ?? '')}
        onChange={pick}
      />
      {may && current && (
        <Button kind="ghost" className="-ml-3" onClick={() => setEditing(current)}>
          <Trans>Change these figures</Trans>
        </Button>
      )}
      {editing && (
        <ProfileDialog
          first={editing.profile}
          known={own.some((row) => row.id === editing.id)}
          onClose={() => setEditing(null)}
          onKeep={async (profile, removed) => {
            const answer = await keepCodeProfile(job, editing.id, profile, removed)
            if (answer.state === 'refused') return answer.problem.message
            if (!removed) onChange(profile)
            setEditing(null)
            return null
          }}
        />
      )}
    </>
  )
}

/** Bends a maker's sheet names; what is left empty counts as the mitred one. */
const BENDS = [
  { style: 'mitred', angle: 45, words: 'mitred, 45°' },
  { style: 'mitred', angle: 90, words: 'mitred, 90°' },
  { style: 'smooth', angle: 45, words: 'smooth, 45°' },
  { style: 'smooth', angle: 90, words: 'smooth, 90°' },
] as const

const blank = (unit: 'ft' | 'm'): OwnProfile => ({
  title: '',
  source: '',
  max_length: { value: 0, unit },
  bore: { value: 4, unit: 'in' },
  fittings: [],
})

function ProfileDialog({
  first,
  known,
  onClose,
  onKeep,
}: {
  first: OwnProfile
  known: boolean
  onClose: () => void
  onKeep: (profile: OwnProfile, removed: boolean) => Promise<string | null>
}) {
  const unit = first.max_length.unit
  const [title, setTitle] = useState(first.title)
  const [source, setSource] = useState(first.source)
  const [longest, setLongest] = useState(first.max_length.value ? String(first.max_length.value) : '')
  const [bore, setBore] = useState(String(first.bore.value))
  const [takes, setTakes] = useState(
    BENDS.map((bend) => {
      const fitting = first.fittings.find((f) => f.style === bend.style && f.angle === bend.angle)
      return fitting ? String(fitting.takes.value) : ''
    }),
  )
  const [trouble, setTrouble] = useState<string | null>(null)
  const keep = async (removed: boolean) => {
    const fittings = BENDS.flatMap((bend, i) => {
      const { style, angle } = bend
      if (!takes[i]?.trim()) return []
      const radius = style === 'smooth' ? { radius: { value: 4, unit: 'in' } } : {}
      return [{ style, angle, ...radius, takes: { value: asNumber(takes[i]), unit } }]
    })
    const profile: OwnProfile = {
      title: title.trim(),
      source: source.trim(),
      max_length: { value: asNumber(longest), unit },
      bore: { value: asNumber(bore), unit: first.bore.unit },
      fittings,
    }
    setTrouble(await onKeep(profile, removed))
  }
  return (
    <Dialog title={t`Own figures for a run`} onClose={onClose}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          void keep(false)
        }}
      >
        <p className="text-soft">
          <Trans>From the maker's sheet, or the code in force where you work.</Trans>
        </p>
        <Field title={t`Name`} required maxLength={80} value={title} onChange={setTitle} />
        <Field
          title={t`Where the figures are from`}
          required
          maxLength={200}
          value={source}
          onChange={setSource}
        />
        <div className="grid grid-cols-2 gap-3">
          <Field
            title={t`Longest straight run, ${unit}`}
            required
            inputMode="decimal"
            value={longest}
            onChange={setLongest}
          />
          <Field
            title={t`Bore, ${first.bore.unit}`}
            required
            inputMode="decimal"
            value={bore}
            onChange={setBore}
          />
        </div>
        <fieldset>
          <legend className="font-bold">
            <Trans>What a bend takes off it, {unit}</Trans>
          </legend>
          <div className="mt-1 grid grid-cols-2 gap-3">
            {BENDS.map((bend, i) => (
              <Field
                key={bend.words}
                title={bend.words}
                required={bend.style === 'mitred'}
                inputMode="decimal"
                value={takes[i] ?? ''}
                onChange={(value) => setTakes(takes.map((old, k) => (k === i ? value : old)))}
              />
            ))}
          </div>
          <p className="text-soft text-sm">
            <Trans>Smooth bends left empty count as mitred.</Trans>
          </p>
        </fieldset>
        <Trouble says={trouble} />
        <div className="flex gap-2">
          <Button type="submit" kind="primary">
            <Trans>Keep for the workshop</Trans>
          </Button>
          {known && (
            <Button kind="ghost" onClick={() => void keep(true)}>
              <Trans>Remove from the list</Trans>
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  )
}

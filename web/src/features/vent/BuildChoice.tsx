import { t } from '@lingui/core/macro'
import { Trans } from '@lingui/react/macro'
import type { Build } from '../../api/vent'
import { Choice } from '../../ui/Choice'

const BENDS = ['4', '6', '8', '10'] as const

/** Of what a new run is built: bore, bends, material. */
export function BuildChoice({ build, onChange }: { build: Build; onChange: (build: Build) => void }) {
  const bend = build.bend === 'mitred' ? t`mitred bends` : t`smooth bends, ${build.radius_in} in`
  const material = build.material === 'aluminium' ? t`aluminium` : t`galvanised`
  return (
    <details className="mt-1">
      <summary className="touch flex cursor-pointer items-center">
        <Trans>
          Built of {build.diameter_in} in, {bend}, {material}
        </Trans>
        <span className="ml-2 underline">
          <Trans>change</Trans>
        </span>
      </summary>
      <div className="grid gap-2">
        <Choice
          title={t`Bore`}
          options={['4', '5', '6'].map((inches) => [inches, `${inches} in`] as const)}
          value={String(build.diameter_in)}
          onChange={(inches) => onChange({ ...build, diameter_in: Number(inches) })}
        />
        <Choice
          title={t`Bends`}
          options={[
            ['mitred', t`mitred`],
            ...BENDS.map((inches) => [inches, t`smooth, ${inches} in`] as [string, string]),
          ]}
          value={build.bend === 'mitred' ? 'mitred' : String(build.radius_in)}
          onChange={(kind) =>
            onChange(
              kind === 'mitred'
                ? { ...build, bend: 'mitred' }
                : { ...build, bend: 'smooth', radius_in: Number(kind) },
            )
          }
        />
        <Choice
          title={t`Material`}
          options={[
            ['galvanised', t`galvanised`],
            ['aluminium', t`aluminium`],
          ]}
          value={build.material}
          onChange={(material) => onChange({ ...build, material: material as Build['material'] })}
        />
      </div>
    </details>
  )
}

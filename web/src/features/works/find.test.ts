import { describe, expect, it } from 'vitest'
import type { Act } from '../../api/types'
import { matching } from './find'

const act = (part: string, kind: string, text: string, part_text: string): Act => ({
  part,
  act: kind,
  text,
  part_text,
  minutes: 5,
  needs_opening: true,
})
const ACTS = [
  act('blower_wheel', 'clean', 'Clean the wheel', 'blower wheel'),
  act('blower_wheel', 'replace', 'Replace the wheel', 'blower wheel'),
  act('thermal_fuse', 'meter', 'Meter the thermal fuse', 'thermal fuse'),
]
const names = (typed: string, trade: { said: string; means: string }[] = []) =>
  matching(ACTS, typed, trade).map((found) => `${found.part}.${found.act}`)

describe('an order is found by words', () => {
  it.each([
    ['', ['blower_wheel.clean', 'blower_wheel.replace', 'thermal_fuse.meter']],
    ['wheel', ['blower_wheel.clean', 'blower_wheel.replace']],
    ['CLEAN whe', ['blower_wheel.clean']],
    ['fuse', ['thermal_fuse.meter']],
    ['heel', []],
  ])('%s', (typed, found) => expect(names(typed)).toEqual(found))

  it('knows what people say', () => {
    expect(names('impeller', [{ said: 'impeller', means: 'blower wheel' }])).toHaveLength(2)
  })
})

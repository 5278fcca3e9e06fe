import { describe, expect, it } from 'vitest'
import { press, shown } from '../../test/render'
import { WheelBench } from './WheelBench'

let turn = 0
const bench = (closing = false, at = `job ${turn++}`) => (
  <WheelBench at={at} seat={{ attachment: 'threaded_hub', role: 'load' }} closing={closing} />
)
const says = (host: HTMLElement) => host.querySelector('[role=status]')?.textContent

describe('which way it turns', () => {
  it('says nothing until it is said which way it runs, then what the core says', async () => {
    const host = await shown(bench())
    expect(says(host)).toContain('Say which way it runs')
    await press(host, 'clockwise')
    expect(says(host)).toContain('Turn it clockwise.')
  })

  it('goes by a mark, and warns where it is against the rule', async () => {
    const host = await shown(bench())
    await press(host, 'clockwise')
    await press(host, 'R')
    expect(says(host)).toContain('Turn it counterclockwise.')
    expect(says(host)).toContain('⚠ The mark wins.')
  })

  it('asks no turn of what is drawn straight', async () => {
    const host = await shown(bench())
    await press(host, 'clamped')
    expect(says(host)).toBe('Draw it off.')
    expect(host.textContent).not.toContain('It runs')
  })

  it('knows on the way back what was said on the way in', async () => {
    const host = await shown(bench(false, 'the same'))
    await press(host, 'clockwise')
    const back = await shown(bench(true, 'the same'))
    expect(says(back)).toContain('on')
    expect(back.textContent).toContain('Tight: By hand.')
    expect(back.textContent).not.toContain('It does not move')
  })
})

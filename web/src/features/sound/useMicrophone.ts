import { t } from '@lingui/core/macro'
import { useCallback, useEffect, useRef, useState } from 'react'
import { type Heard, Microphone } from './microphone'

/** How often the level is drawn, ms: a block comes every few. */
const DRAWN_EVERY = 80

/** A microphone that is closed when one goes away. heard: null while it is closed. */
export function useMicrophone() {
  const open = useRef<Microphone | null>(null)
  const drawn = useRef(0)
  const [heard, setHeard] = useState<Heard | null>(null)
  const [trouble, setTrouble] = useState<string | null>(null)
  const close = useCallback(async () => {
    const was = open.current
    open.current = null
    setHeard(null)
    await was?.close()
    return was
  }, [])
  const start = useCallback(async () => {
    setTrouble(null)
    try {
      open.current = await Microphone.open((now) => {
        if (performance.now() - drawn.current < DRAWN_EVERY) return
        drawn.current = performance.now()
        if (open.current) setHeard(now)
      })
      setHeard({ level: 0, clipped: false, seconds: 0 })
      return open.current
    } catch (error) {
      setTrouble(whyNot(error))
      return null
    }
  }, [])
  useEffect(() => () => void open.current?.close(), [])
  return { heard, trouble, start, close, open }
}

function whyNot(error: unknown): string {
  const name = error instanceof Error ? error.name : ''
  if (name === 'NotAllowedError')
    return t`The browser may not use the microphone. Allow it beside the address, or bring a file.`
  if (name === 'NotFoundError')
    return t`There is no microphone here. Record with another device and bring the file.`
  return t`The microphone cannot be opened. It needs a page with https, or this very machine; or bring a file.`
}

import { useRef } from 'react'
import { Button } from './Button'

/** A button that asks for a file; the same one can be given twice. */
export function FileButton({
  text,
  accept,
  name,
  kind = 'outline',
  disabled = false,
  onFile,
}: {
  text: string
  accept: string
  /** What the file is, as a screen reader says it. */
  name: string
  kind?: 'outline' | 'neutral'
  disabled?: boolean
  onFile: (file: File) => void
}) {
  const file = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button kind={kind} disabled={disabled} onClick={() => file.current?.click()}>
        {text}
      </Button>
      <input
        ref={file}
        type="file"
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={name}
        onChange={(event) => {
          const chosen = event.target.files?.[0]
          if (chosen) onFile(chosen)
          event.target.value = ''
        }}
      />
    </>
  )
}

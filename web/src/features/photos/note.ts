import { t } from '@lingui/core/macro'
import type { Photo } from '../../api/types'
import { notePhoto } from '../../api/writes'
import { canUndo } from '../../app/undo'
import { useWrite } from '../../ui/useWrite'

export type Marks = Photo['wires']
type Note = { on_record: boolean; wires: Marks }

/** Says something of a photo; what was said before comes back by undo. */
export function useNote(job: string, photo: Photo) {
  const { trouble, write } = useWrite()
  const before: Note = { on_record: photo.on_record, wires: photo.wires }
  const note = async (said: Partial<Note>) => {
    const kept = await write(notePhoto(job, photo.id, { ...before, ...said }))
    if (kept) canUndo(job, { says: t`photo`, run: () => void notePhoto(job, photo.id, before) })
    return kept
  }
  return { trouble, note }
}

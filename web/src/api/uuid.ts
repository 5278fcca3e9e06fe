import { v7 } from 'uuid'

/** An id made here, in order of time, so that a write can be repeated without doubling. */
export const newId = (): string => v7()

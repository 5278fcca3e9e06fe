/** "08:30" as a minute of the day; undefined for what is none. */
export function minuteOf(text: string): number | undefined {
  const found = /^(\d{1,2}):(\d{2})$/.exec(text.trim())
  if (!found) return undefined
  const minute = Number(found[1]) * 60 + Number(found[2])
  return Number(found[2]) < 60 && minute <= 1440 ? minute : undefined
}

/** "54.40, -3.02" as degrees; undefined for what is none. A comma may stand for the point where a semicolon divides. */
export function degreesOf(text: string): { latitude: number; longitude: number } | undefined {
  const parts = text.includes(';') ? text.split(';') : text.split(/,\s*|\s+/)
  const [latitude, longitude, ...more] = parts.map((part) => part.trim().replace(',', '.')).filter(Boolean)
  if (!latitude || !longitude || more.length > 0) return undefined
  const at = { latitude: Number(latitude), longitude: Number(longitude) }
  return Math.abs(at.latitude) <= 90 && Math.abs(at.longitude) <= 180 ? at : undefined
}

/** Degrees as they are typed; nothing where nobody knows them. */
export const degreesIn = (at: { latitude: number | null; longitude: number | null } | null): string =>
  at?.latitude == null ? '' : `${at.latitude}, ${at.longitude}`

/** A day as the browser's clock has it, or so many days after one: 2027-02-03. */
export function dayAfter(day: string | null, days: number): string {
  const at = day ? new Date(`${day}T12:00:00`) : new Date()
  at.setDate(at.getDate() + days)
  const two = (number: number) => String(number).padStart(2, '0')
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`
}

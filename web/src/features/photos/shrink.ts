const LONG_SIDE = 1600
const QUALITY = 0.82

/** How large a photo is drawn: its long side at most so many pixels, never enlarged. */
export function fitted(width: number, height: number, most = LONG_SIDE): { width: number; height: number } {
  const scale = Math.min(1, most / Math.max(width, height))
  return { width: Math.round(width * scale), height: Math.round(height * scale) }
}

/** A photo made small on the device, upright, before it waits for a thin line. What can't be read goes as it is. */
export async function shrink(file: File): Promise<Blob> {
  let image: ImageBitmap
  try {
    image = await createImageBitmap(file, { imageOrientation: 'from-image' })
  } catch {
    return file // the server says what is wrong with it
  }
  const { width, height } = fitted(image.width, image.height)
  const canvas = document.createElement('canvas')
  canvas.width = width
  canvas.height = height
  canvas.getContext('2d')?.drawImage(image, 0, 0, width, height)
  image.close()
  return new Promise((done) => canvas.toBlob((blob) => done(blob ?? file), 'image/jpeg', QUALITY))
}

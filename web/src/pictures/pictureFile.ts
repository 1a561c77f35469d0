/** What the server takes; it checks again. */
const MAX_BYTES = 8 * 1024 * 1024
const MAX_PIXELS = 40_000_000

const STAYS = 'The picture you had is still there.'

/** Why a file cannot be used as a picture, or "" when it can. */
async function pictureProblem(file: File): Promise<string> {
  if (file.size > MAX_BYTES)
    return `This file is larger than 8 MB. Save the picture smaller and try again. ${STAYS}`
  const size = await measure(file)
  if (!size) return `This file is not a picture we can read. PNG, JPEG, GIF and WebP work. ${STAYS}`
  const megapixels = (size.width * size.height) / 1_000_000
  if (size.width * size.height > MAX_PIXELS) {
    return `This picture has ${Math.round(megapixels)} megapixels and the limit is 40. Save it smaller, 2,000 pixels wide is plenty. ${STAYS}`
  }
  return ''
}

/** Throws why a file cannot be used as a picture, before it is sent. */
export async function refuseUnusable(file: File) {
  const problem = await pictureProblem(file)
  if (problem) throw new Error(problem)
}

/** The size of a picture, read without putting it on screen. */
function measure(file: File): Promise<{ width: number; height: number } | undefined> {
  const url = URL.createObjectURL(file)
  const picture = new Image()
  return new Promise<{ width: number; height: number } | undefined>((resolve) => {
    picture.onload = () => resolve({ width: picture.naturalWidth, height: picture.naturalHeight })
    picture.onerror = () => resolve(undefined)
    picture.src = url
  }).finally(() => URL.revokeObjectURL(url))
}

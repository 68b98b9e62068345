// An image that a pilot chose, as text.

/** Reads it. One that is too large to be an image is refused before it is read. */
export async function imageText(f: File): Promise<string> {
  if (f.size > 2_000_000) throw new Error(`${f.name} has ${(f.size / 1e6).toFixed(0)} MB; an image is at most 2 MB. Nothing was read.`)
  return await f.text()
}

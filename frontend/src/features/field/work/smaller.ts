/** So large is enough to read a plate, and small enough for a bad signal. */
const LONGEST_SIDE = 1600;
const MEGABYTES = 0.6;

/**
 * A photo as it is kept: a JPEG of at most 1600 dots a side.
 *
 * @throws when the file is no picture that this device can read
 */
export async function smaller(file: File): Promise<{ content: Uint8Array<ArrayBuffer>; media_type: string }> {
  const { default: compress } = await import('browser-image-compression');
  // Its worker would fetch itself from elsewhere: there may be no elsewhere.
  const made = await compress(file, {
    maxSizeMB: MEGABYTES,
    maxWidthOrHeight: LONGEST_SIDE,
    useWebWorker: false,
    fileType: 'image/jpeg',
  });
  return { content: new Uint8Array(await made.arrayBuffer()), media_type: 'image/jpeg' };
}

/** A phone's picture has 3 to 20 MB; what is larger is no picture of a display. */
export const MAX_MEGABYTES = 30;
/** Long side after shrinking, px: every digit of a display can still be read. */
const LONG_SIDE = 1600;

type Shrunk = { readonly ok: true; readonly picture: Blob } | { readonly ok: false; readonly message: string };

/**
 * A picture small enough to be kept, as JPEG and without what it tells of place and device; or why it cannot be.
 *
 * @param file as it was taken or dropped
 */
export async function shrunk(file: Blob): Promise<Shrunk> {
  const megabytes = file.size / 1e6;
  if (megabytes > MAX_MEGABYTES)
    return {
      ok: false,
      message: `This file has ${megabytes.toFixed(1)} MB; a picture has ${MAX_MEGABYTES} at most. Take it again in a smaller size. Nothing else of the run is lost.`,
    };
  const bitmap = await createImageBitmap(file).catch(() => null);
  if (!bitmap)
    return { ok: false, message: 'This file is no picture that the browser can read. Take a JPEG or PNG picture.' };
  const scale = Math.min(1, LONG_SIDE / Math.max(bitmap.width, bitmap.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(bitmap.width * scale));
  canvas.height = Math.max(1, Math.round(bitmap.height * scale));
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  const picture = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/jpeg', 0.85));
  return picture ? { ok: true, picture } : { ok: false, message: 'The picture could not be made smaller. Try again.' };
}

import { say } from '../words/words';
import { Trouble } from './client';

// The longest side that a picture is shrunk to before it is sent, in pixels.
const side = 1600;
const accepted = ['image/jpeg', 'image/png', 'image/webp', 'image/heic', 'image/heif'];

/** Shrinks a picture in the browser and writes it anew as JPEG: upright, and without the place it was taken at. */
export async function shrink(file: File): Promise<Blob> {
  if (!accepted.includes(file.type))
    throw new Trouble(415, {
      status: 415,
      title: say('“{{name}}” is {{type}}: give a photo as JPEG, PNG or WebP.', {
        name: file.name,
        type: file.type || say('of no known kind'),
      }),
    });
  if (file.size > 40 << 20) throw new Trouble(413, { status: 413, title: say('“{{name}}” is larger than 40 MB.', { name: file.name }) });
  let image: ImageBitmap;
  try {
    image = await createImageBitmap(file, { imageOrientation: 'from-image' });
  } catch {
    throw new Trouble(415, { status: 415, title: say('“{{name}}” cannot be read as a picture by this browser.', { name: file.name }) });
  }
  const scale = Math.min(1, side / Math.max(image.width, image.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(image.width * scale));
  canvas.height = Math.max(1, Math.round(image.height * scale));
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  image.close();
  return new Promise((done, fail) =>
    canvas.toBlob(
      (b) => (b ? done(b) : fail(new Trouble(415, { status: 415, title: say('The picture could not be shrunk.') }))),
      'image/jpeg',
      0.82,
    ),
  );
}

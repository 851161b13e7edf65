/** One picture of a screen or window that the teacher chooses. @throws DOMException when they choose none */
export async function pictureOfScreen(): Promise<ImageBitmap> {
  const stream = await navigator.mediaDevices.getDisplayMedia({ video: true });
  try {
    return await pictureOfStream(stream);
  } finally {
    stopStream(stream);
  }
}

/** Opens a camera that looks away from the teacher, if there is one; `null` where there is none or it is refused. */
export async function openCamera(): Promise<MediaStream | null> {
  try {
    return await navigator.mediaDevices.getUserMedia({
      video: { facingMode: 'environment', width: { ideal: 1920 }, height: { ideal: 1080 } },
    });
  } catch {
    return null;
  }
}

/** What a stream shows just now. */
export async function pictureOfStream(stream: MediaStream): Promise<ImageBitmap> {
  const video = document.createElement('video');
  video.muted = true;
  video.srcObject = stream;
  await video.play();
  try {
    return await createImageBitmap(video);
  } finally {
    video.srcObject = null;
  }
}

export function stopStream(stream: MediaStream): void {
  for (const track of stream.getTracks()) track.stop();
}

/** What serves as a camera where there is none: pictures that ship with the application. */
export const STAND_IN_PICTURES = [
  { name: 'A harbour on the chart', url: '/stand-ins/harbour.png' },
  { name: 'A student’s page', url: '/stand-ins/student-page.png' },
  { name: 'A compass rose', url: '/stand-ins/compass-rose.png' },
] as const;

/** Shows in `video` what the camera sees, about so large, until it is ended. */
export async function openEye(
  video: HTMLVideoElement,
  ideal: { width: number; height: number },
  ending: AbortSignal,
): Promise<void> {
  if (!('mediaDevices' in navigator)) throw new DOMException('', 'NotFoundError');
  const stream = await navigator.mediaDevices.getUserMedia({
    video: { facingMode: 'environment', width: { ideal: ideal.width }, height: { ideal: ideal.height } },
  });
  const stop = () => {
    for (const track of stream.getTracks()) track.stop();
  };
  ending.addEventListener('abort', stop);
  if (ending.aborted) return stop();
  video.srcObject = stream;
  await video.play();
}

/** Why there is no picture, with what to do; `without` is what to do where there is no camera. */
export function eyeTrouble(error: unknown, without: string): string {
  const name = error instanceof DOMException ? error.name : '';
  if (name === 'NotAllowedError')
    return 'The camera may not be used. Allow it for this page in the browser’s settings, then open it again.';
  if (name === 'NotFoundError') return without;
  return 'The camera gives no picture. Close other programs that use it, then open it again.';
}

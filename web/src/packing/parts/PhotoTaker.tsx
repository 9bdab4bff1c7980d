import Button from '@mui/material/Button';
import { useCallback, useEffect, useRef, useState } from 'react';
import css from '../../scans/bench.module.css';
import { playTone } from '../../scans/sounds.js';

/** Seconds until the picture is taken: time to step aside. */
const COUNT = 3;
/** The longer side of a picture, in points. */
const LONGEST = 1600;

interface Props {
  /** Counts up when the code is scanned once more: the picture is taken at once. */
  now: number;
  taken: (picture: Blob) => void;
  leave: () => void;
}

/** The open box as the camera sees it; the picture is taken after a short count, or at once by its code. */
export function PhotoTaker({ now, taken, leave }: Props) {
  const video = useRef<HTMLVideoElement>(null);
  const [left, setLeft] = useState<number | null>(null);
  const [trouble, setTrouble] = useState('');
  const done = useRef(false);
  useEffect(() => {
    const ending = new AbortController();
    see(video.current!, ending.signal).then(
      () => !ending.signal.aborted && setLeft(COUNT),
      (error: unknown) => {
        if (ending.signal.aborted) return;
        playTone('wrong');
        setTrouble(troubleOf(error));
      },
    );
    return () => ending.abort();
  }, []);
  const take = useCallback(async () => {
    if (done.current || !video.current?.videoWidth) return;
    done.current = true;
    const picture = await pictureOf(video.current);
    playTone('complete');
    taken(picture);
  }, [taken]);
  const first = useRef(now);
  useEffect(() => {
    if (now !== first.current) void take();
  }, [now, take]);
  useEffect(() => {
    if (left === null) return;
    if (left === 0) {
      void take();
      return;
    }
    const timer = setTimeout(() => setLeft(left - 1), 1_000);
    return () => clearTimeout(timer);
  }, [left, take]);
  return (
    <section className={css.photo} aria-label="Photo of the open box">
      <video ref={video} muted playsInline />
      <p role="status">
        <b>{trouble || (left === null ? 'The camera opens …' : left > 0 ? `Photo in ${left}` : 'Taken')}</b>
      </p>
      <Button variant="outlined" onClick={leave}>
        Without a photo
      </Button>
    </section>
  );
}

/** Shows what the camera sees until it is ended. */
async function see(video: HTMLVideoElement, ending: AbortSignal): Promise<void> {
  if (!('mediaDevices' in navigator)) throw new DOMException('', 'NotFoundError');
  const stream = await navigator.mediaDevices.getUserMedia({
    video: { width: { ideal: LONGEST }, height: { ideal: 1_200 } },
  });
  const stop = () => {
    for (const track of stream.getTracks()) track.stop();
  };
  ending.addEventListener('abort', stop);
  if (ending.aborted) return stop();
  video.srcObject = stream;
  await video.play();
}

async function pictureOf(video: HTMLVideoElement): Promise<Blob> {
  const scale = Math.min(1, LONGEST / Math.max(video.videoWidth, video.videoHeight));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(video.videoWidth * scale);
  canvas.height = Math.round(video.videoHeight * scale);
  canvas.getContext('2d')!.drawImage(video, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) =>
    canvas.toBlob(b => (b ? resolve(b) : reject(new Error('no picture'))), 'image/jpeg', 0.85),
  );
}

/** Why there is no picture, with what to do. */
function troubleOf(error: unknown): string {
  const name = error instanceof DOMException ? error.name : '';
  if (name === 'NotFoundError') return 'This bench has no camera.';
  return name === 'NotAllowedError'
    ? 'The camera may not be used. Allow it for this page in the browser’s settings.'
    : 'The camera gives no picture. Close other programs that use it.';
}

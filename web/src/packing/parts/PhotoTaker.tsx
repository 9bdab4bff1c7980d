import Button from '@mui/material/Button';
import { useCallback, useEffect, useRef, useState } from 'react';
import { eyeTrouble, openEye } from '../../scans/eye.js';
import { playTone } from '../../scans/sounds.js';
import css from '../packing.module.css';

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
export default function PhotoTaker({ now, taken, leave }: Props) {
  const video = useRef<HTMLVideoElement>(null);
  const [left, setLeft] = useState<number | null>(null);
  const [trouble, setTrouble] = useState('');
  const done = useRef(false);
  const told = useRef(taken);
  told.current = taken;
  useEffect(() => {
    const ending = new AbortController();
    openEye(video.current!, { width: LONGEST, height: 1_200 }, ending.signal).then(
      () => !ending.signal.aborted && setLeft(COUNT),
      (error: unknown) => {
        if (ending.signal.aborted) return;
        playTone('wrong');
        setTrouble(eyeTrouble(error, 'This bench has no camera.'));
      },
    );
    return () => ending.abort();
  }, []);
  const take = useCallback(async () => {
    if (done.current || !video.current?.videoWidth) return;
    done.current = true;
    const picture = await pictureOf(video.current);
    playTone('complete');
    told.current(picture);
  }, []);
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

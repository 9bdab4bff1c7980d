import PhotoCamera from '@mui/icons-material/PhotoCamera';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { useEffect, useRef, useState } from 'react';
import css from './camera.module.css';
import { eyeTrouble, openEye } from './eye.js';
import { Sight } from './sight.js';
import { playTone } from './sounds.js';
import { scanned } from './useScanner.js';

/** A picture is read so often: codes are found at once, and the battery lasts. */
const EVERY_MS = 120;
/** Wide enough for a code that fills half the picture. */
const WIDTH = 960;

const NO_CAMERA = 'This device has no camera. Scan with a scanner, or type the code.';

/** Whoever scans with the camera goes on with it on the next screen. */
let wanted = false;

/** Opens the camera as a scanner, where there is one; the browser gives it on loopback and over TLS alone. */
export function CameraButton() {
  const [open, show] = useState(wanted);
  const setOpen = (on: boolean) => {
    wanted = on;
    show(on);
  };
  if (!('mediaDevices' in navigator)) return null;
  return (
    <>
      <IconButton
        className={css.opener}
        aria-label={open ? 'Close the camera' : 'Scan with the camera'}
        aria-pressed={open}
        onClick={() => setOpen(!open)}
      >
        <PhotoCamera />
      </IconButton>
      {open && <Camera leave={() => setOpen(false)} />}
    </>
  );
}

/** What the camera sees; each code that comes into sight is a scan. */
function Camera({ leave }: { leave: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    const ending = new AbortController();
    watch(video.current!, ending.signal).catch((error: unknown) => {
      if (ending.signal.aborted) return;
      playTone('wrong');
      setTrouble(eyeTrouble(error, NO_CAMERA));
    });
    return () => ending.abort();
  }, []);
  return (
    <section className={css.camera} aria-label="Camera">
      <video ref={video} muted playsInline className={css.picture} />
      {trouble ? <p className={css.trouble}>{trouble}</p> : <span className={css.line} aria-hidden="true" />}
      <Button variant="outlined" className={css.leave} onClick={leave}>
        Close
      </Button>
    </section>
  );
}

/** Reads picture after picture until it is ended. */
async function watch(video: HTMLVideoElement, ending: AbortSignal): Promise<void> {
  const [{ codesIn }] = await Promise.all([
    import('./reader.js'),
    openEye(video, { width: 1280, height: 720 }, ending),
  ]);
  const canvas = document.createElement('canvas');
  const drawing = canvas.getContext('2d', { willReadFrequently: true })!;
  const sight = new Sight();
  while (!ending.aborted) {
    const scale = Math.min(1, WIDTH / video.videoWidth);
    canvas.width = Math.round(video.videoWidth * scale);
    canvas.height = Math.round(video.videoHeight * scale);
    drawing.drawImage(video, 0, 0, canvas.width, canvas.height);
    const codes = await codesIn(drawing.getImageData(0, 0, canvas.width, canvas.height));
    for (const code of sight.see(codes)) scanned(code);
    await new Promise(resolve => setTimeout(resolve, EVERY_MS));
  }
}

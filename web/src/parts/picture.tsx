import type { JSX } from 'react';

/** A marking pen with its cap in the colour it marks with. */
function pen(colour: string): JSX.Element {
  return (
    <>
      <rect x="20" y="6" width="8" height="12" fill={colour} />
      <rect x="20" y="18" width="8" height="16" fill="#7f9098" />
      <path d="M20 34h8l-4 8z" fill={colour} />
    </>
  );
}

/** Plain drawings of the demo's products, two or three colours each, on a 48 by 48 field. */
const DRAWINGS: Record<string, JSX.Element> = {
  hive: (
    <>
      <rect x="10" y="10" width="28" height="8" fill="#c58f45" />
      <rect x="12" y="18" width="24" height="20" fill="#dcae62" />
      <rect x="19" y="22" width="10" height="3" fill="#6f4d1c" />
      <rect x="10" y="38" width="28" height="3" fill="#6f4d1c" />
    </>
  ),
  lid: (
    <>
      <rect x="6" y="20" width="36" height="6" fill="#9fb0b8" />
      <rect x="9" y="26" width="30" height="6" fill="#dcae62" />
    </>
  ),
  frame: (
    <>
      <rect x="6" y="12" width="36" height="5" fill="#c58f45" />
      <rect x="10" y="17" width="4" height="21" fill="#dcae62" />
      <rect x="34" y="17" width="4" height="21" fill="#dcae62" />
      <rect x="10" y="35" width="28" height="3" fill="#dcae62" />
      <path d="M16 22h16M16 27h16M16 32h16" stroke="#f6e3b4" strokeWidth="2" />
    </>
  ),
  sheet: (
    <>
      <rect x="9" y="12" width="30" height="24" fill="#e9c36a" />
      <path d="M14 18h20M14 24h20M14 30h20" stroke="#b9862c" strokeWidth="2" strokeDasharray="4 3" />
    </>
  ),
  grid: (
    <>
      <rect x="9" y="10" width="30" height="28" fill="none" stroke="#9fb0b8" strokeWidth="3" />
      <path d="M16 10v28M24 10v28M32 10v28" stroke="#9fb0b8" strokeWidth="2" />
    </>
  ),
  smoker: (
    <>
      <rect x="18" y="16" width="16" height="24" fill="#9fb0b8" />
      <path d="M20 16l10-10 6 4-4 6z" fill="#7f9098" />
      <rect x="8" y="20" width="10" height="18" fill="#7a3d1c" />
    </>
  ),
  tool: <path d="M21 6h7l-1 24 6 12H15l6-12z" fill="#9fb0b8" />,
  jar: (
    <>
      <rect x="15" y="7" width="18" height="6" fill="#c5973a" />
      <path d="M13 15h22v22a4 4 0 0 1-4 4H17a4 4 0 0 1-4-4z" fill="#e2ad43" />
      <rect x="17" y="22" width="14" height="10" fill="#faf9f5" />
    </>
  ),
  bottle: (
    <>
      <rect x="20" y="5" width="8" height="6" fill="#46545f" />
      <path d="M20 11h8l5 8v22H15V19z" fill="#7fb7e6" />
      <rect x="18" y="24" width="12" height="9" fill="#faf9f5" />
    </>
  ),
  bucket: (
    <>
      <path d="M11 14h26l-3 26H14z" fill="#dfe5e6" />
      <ellipse cx="24" cy="14" rx="13" ry="3.5" fill="#9fb0b8" />
      <path d="M12 14c2-12 22-12 24 0" fill="none" stroke="#7f9098" strokeWidth="2" />
    </>
  ),
  packet: (
    <>
      <rect x="11" y="9" width="26" height="30" rx="2" fill="#3a76ab" />
      <path d="M16 18h16M16 24h16M16 30h10" stroke="#faf9f5" strokeWidth="2.5" />
    </>
  ),
  seeds: (
    <>
      <rect x="13" y="7" width="22" height="34" rx="2" fill="#2f7c62" />
      <circle cx="24" cy="24" r="6" fill="#e9c36a" />
    </>
  ),
  box: (
    <>
      <path d="M8 17l16-7 16 7v18l-16 7-16-7z" fill="#c99a5b" />
      <path d="M8 17l16 7 16-7M24 24v18" stroke="#7a5523" strokeWidth="2" fill="none" />
    </>
  ),
  knife: (
    <>
      <path d="M7 30L34 9l3 4-26 21z" fill="#c3ced2" />
      <path d="M11 34l-4-4-3 8z" fill="#7a3d1c" />
      <rect x="30" y="6" width="12" height="7" rx="3" transform="rotate(40 36 9)" fill="#7a3d1c" />
    </>
  ),
  suit: (
    <>
      <path d="M15 8h18l7 8-5 5-3-2v22H16V19l-3 2-5-5z" fill="#e8ebe8" />
      <rect x="18" y="6" width="12" height="8" rx="3" fill="#7f9098" />
    </>
  ),
  glove: <path d="M14 42V24l-5-5 4-4 5 5V7h4v11h2V6h4v12h2V9h4v33z" fill="#dcae62" />,
  pen: pen('#5b6a75'),
  'pen-blue': pen('#3a76ab'),
  'pen-white': pen('#e8ebe8'),
  'pen-yellow': pen('#e9c36a'),
  book: (
    <>
      <rect x="11" y="8" width="26" height="32" fill="#a8562d" />
      <rect x="15" y="14" width="18" height="6" fill="#faf9f5" />
      <path d="M11 40h26" stroke="#faf9f5" strokeWidth="3" />
    </>
  ),
};

/** A product's picture: one that was given, or its drawing. */
export function Picture({ name, size }: { name: string | null; size: number }) {
  if (name?.startsWith('up:'))
    return (
      <img
        src={`/api/v1/pictures/${name.slice(3)}`}
        width={size}
        height={size}
        alt=""
        data-part="picture"
        style={{ objectFit: 'contain' }}
      />
    );
  return (
    <svg width={size} height={size} viewBox="0 0 48 48" aria-hidden="true" data-part="picture">
      {DRAWINGS[name ?? 'box'] ?? DRAWINGS.box}
    </svg>
  );
}

import GlobalStyles from '@mui/material/GlobalStyles';
import { ThemeProvider } from '@mui/material/styles';
import { type ReactNode, useMemo } from 'react';
import { type Look, useLook } from './look.js';
import { type Posture, themeOf, variablesOf } from './theme.js';

/** Everything inside wears the theme of its posture, as the person wants it. */
export function Looks({ posture, children }: { posture: Posture; children: ReactNode }) {
  const look = useLook();
  const theme = useMemo(() => themeOf(posture, look), [posture, look]);
  const page = useMemo(() => pageStyles(posture, look), [posture, look]);
  return (
    <ThemeProvider theme={theme}>
      <GlobalStyles styles={page} />
      {children}
    </ThemeProvider>
  );
}

/** The page itself: the only styles that reach everywhere. */
function pageStyles(posture: Posture, look: Look) {
  const still = { '*, *::before, *::after': { transition: 'none !important', animation: 'none !important' } };
  return {
    ':root': { ...variablesOf(posture, look), colorScheme: posture === 'dark' ? 'dark' : 'light' },
    html: { fontSize: `${look.text}%` },
    '*': { boxSizing: 'border-box' },
    'html, body, #root': { height: '100%', margin: 0 },
    body: {
      background: 'var(--ground)',
      color: 'var(--ink)',
      font: '400 var(--text-body) / 1.35 var(--face)',
      fontVariantNumeric: 'tabular-nums',
      accentColor: 'var(--act)',
    },
    'h1, h2, h3, p': { margin: 0 },
    h1: { fontSize: 'var(--text-head)', fontWeight: 700 },
    h2: { fontSize: '1rem', fontWeight: 700 },
    a: { color: 'var(--act-text)' },
    'code, kbd': { fontFamily: 'var(--mono)' },
    ':focus-visible': { outline: '3px solid var(--focus)', outlineOffset: 2 },
    '@media (prefers-reduced-motion: reduce)': still,
    ...(look.still ? still : {}),
  };
}

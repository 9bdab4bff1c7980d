/// <reference types="vite/client" />
declare module '@fontsource-variable/atkinson-hyperlegible-next';
declare module '@fontsource-variable/atkinson-hyperlegible-mono';
declare module 'plotly.js/lib/core' {
  export * from 'plotly.js';

  const whole: typeof import('plotly.js') | undefined;
  export default whole;
}

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createElement, type ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { MemoryRouter } from 'react-router';

/** For tests: the words that a part of a page shows when it is first drawn, as one reads them, and its markup. */
export function shown(part: ReactElement): { words: string; markup: string } {
  const markup = renderToStaticMarkup(
    createElement(
      QueryClientProvider,
      { client: new QueryClient() },
      createElement(MemoryRouter, null, part),
    ),
  );
  const words = markup
    .replace(/<style[^>]*>.*?<\/style>/gs, '')
    .replace(/<\/?(b|em|i|small|strong)>/g, ' ')
    .replace(/<[^>]+>/g, ' ')
    .replaceAll('&#x27;', '’')
    .replaceAll('&quot;', '"')
    .replaceAll('&gt;', '>')
    .replaceAll('&lt;', '<')
    .replaceAll('&amp;', '&')
    .replace(/\s+/g, ' ')
    .replace(/ ([.,:])/g, '$1')
    .trim();
  return { words, markup };
}

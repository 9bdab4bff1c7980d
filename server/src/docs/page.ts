import type { Operation } from './openapi.service.js';

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, c => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

const shown = (schema: unknown): string => `<pre>${escaped(JSON.stringify(schema, null, 2))}</pre>`;

/** The API as one page: plain HTML that needs no script and no network. */
export function docsPage(operations: readonly Operation[], forms: Record<string, unknown>): string {
  const tags = [...new Set(operations.map(o => o.tag))];
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>The API of Auk</title><style>
body { font: 16px/1.45 system-ui, sans-serif; margin: 32px auto; max-width: 960px; padding: 0 24px; color: #17212B; background: #FAF9F5 }
h1 { font-size: 24px } h2 { font-size: 19px; margin-top: 32px } summary { cursor: pointer; padding: 6px 0 } summary code { font-size: 15px }
details { border-top: 1px solid #d5d9d6 } pre { background: #E8EBE8; padding: 12px; overflow: auto; font-size: 13px } b.post { color: #A83F16 } b.get { color: #1F6F5C } p { margin: 4px 0 }
</style></head><body><h1>The API of Auk</h1>
<p>OpenAPI 3.1: <a href="/api/docs/openapi.json">openapi.json</a>. Every refusal is a problem (RFC 9457) with what, why, cure, and whether to try again.</p>
${tags
  .map(
    tag =>
      `<h2>${escaped(tag)}</h2>${operations
        .filter(o => o.tag === tag)
        .map(operationHtml)
        .join('')}`,
  )
  .join('')}
<h2>Forms</h2>${Object.entries(forms)
    .map(
      ([id, schema]) =>
        `<details id="${escaped(id)}"><summary><code>${escaped(id)}</code></summary>${shown(schema)}</details>`,
    )
    .join('')}
</body></html>`;
}

function operationHtml(o: Operation): string {
  const query = o.parameters.filter(p => p.in === 'query').map(p => p.name);
  return `<details><summary><b class="${o.method}">${o.method.toUpperCase()}</b> <code>${escaped(o.path)}</code></summary>
<p>For ${escaped(o.who)}.</p>${query.length > 0 ? `<p>May be asked with: ${escaped(query.join(', '))}.</p>` : ''}
${o.body ? `<p>Takes</p>${shown(o.body)}` : ''}<p>Answers</p>${typeof o.answer === 'string' ? `<p>${o.answer}</p>` : shown(o.answer)}</details>`;
}

import { MAIL_WORDS, type MailWord } from '@auk/contract';

/** A text with its words in braces filled in; those that have nothing to say become nothing. No brace of what is filled in is read again. */
export function filled(text: string, words: Partial<Record<MailWord, string>>): string {
  return text.replace(/\{(\w+)\}/g, (whole, word: string) =>
    word in MAIL_WORDS ? (words[word as MailWord] ?? '') : whole,
  );
}

const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, c => `&#${c.charCodeAt(0)};`);

/** A mail as a page: a band in the brand's colour with its logo or name, the text, and links that can be pressed. `logo` is the content id of a picture. */
export function asPage(look: { brand: string; colour: string; logo: string | null }, text: string): string {
  const head = look.logo
    ? `<img src="cid:${look.logo}" alt="${escapeHtml(look.brand)}" height="40">`
    : `<b>${escapeHtml(look.brand)}</b>`;
  const paragraphs = text
    .split(/\n{2,}/)
    .map(p => `<p>${linked(escapeHtml(p)).replaceAll('\n', '<br>')}</p>`)
    .join('\n');
  return `<!doctype html><html><body style="margin:0;font:16px/1.5 sans-serif;color:#1a1a1a">
<div style="border-top:8px solid ${look.colour};padding:20px 24px 0;font-size:20px">${head}</div>
<div style="padding:4px 24px 24px;max-width:36em">${paragraphs}</div></body></html>`;
}

const linked = (escaped: string): string =>
  escaped.replace(/https?:\/\/[^\s<]+/g, url => `<a href="${url}">${url}</a>`);

import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { letterOf } from '@auk/server/mails/letter';
import { MailDesk } from '@auk/standins';
import { simpleParser } from 'mailparser';
import { createTransport } from 'nodemailer';
import { expect, test } from 'vitest';

const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);
const mail = (more: object) => ({
  id: '0192f000-0000-7000-8000-000000000001',
  orderId: null,
  toWhom: 'maud@mail.example',
  subject: 'Your order is on its way',
  text: 'Hello,\n\nit has left.\nhttps://orders.example/b/1-x\n\nSkepside',
  at: new Date('2026-11-26T12:00:00Z'),
  state: 'waiting' as const,
  brand: 'Skepside Bee Supply',
  colour: '#2f5d50',
  logo: null,
  logoType: null,
  sentFrom: null,
  ...more,
});

/** Sends mails over the wire to a mail server and reads the files that it kept. */
async function sent(...mails: ReturnType<typeof mail>[]) {
  const desk = new MailDesk(mkdtempSync(join(tmpdir(), 'auk-mail-')));
  const port = await desk.listen();
  const transport = createTransport({ url: `smtp://127.0.0.1:${port}` });
  for (const m of mails) await transport.sendMail(letterOf(m, 'bees@skepside.example', 'The house'));
  transport.close();
  await desk.close();
  return Promise.all(desk.names().map(n => simpleParser(desk.mail(n)!)));
}

// Source: mailparser 3.14.2, which reads RFC 5322 and MIME by code of its own; files as a mail server keeps them (.eml).
test('what an independent reader finds in a mail is what was written: whom, from whom, when, subject, text, links, picture', async () => {
  const [plain, pretty] = await sent(
    mail({}),
    mail({
      toWhom: 'łucja@mail.example',
      subject: 'Zamówienie „12” wyszło — 小包 📦',
      text: `Dzień dobry <b>Łucjo</b> & Co,\n\n${'długa linia '.repeat(120)}\n.\nkoniec`,
      logo: PNG,
      logoType: 'image/png',
      sentFrom: null,
    }),
  );
  expect(plain).toMatchObject({
    subject: 'Your order is on its way',
    date: new Date('2026-11-26T12:00:00Z'),
    messageId: '<0192f000-0000-7000-8000-000000000001@skepside.example>',
    from: { value: [{ name: 'Skepside Bee Supply', address: 'bees@skepside.example' }] },
  });
  expect(plain!.text!.trim()).toBe(mail({}).text);
  expect(plain!.html).toContain('<a href="https://orders.example/b/1-x">');
  expect(plain!.attachments).toEqual([]);
  expect(pretty!.subject).toBe('Zamówienie „12” wyszło — 小包 📦');
  expect(pretty!.text!.replace(/\r/g, '').trim()).toBe(
    `Dzień dobry <b>Łucjo</b> & Co,\n\n${'długa linia '.repeat(120)}\n.\nkoniec`,
  );
  // What a person wrote is text in the page too, never markup.
  expect(pretty!.html).not.toContain('<b>Łucjo');
  expect(pretty!.attachments).toHaveLength(1);
  expect(pretty!.attachments[0]!.content.equals(PNG)).toBe(true);
});

// Source: the same. A subject that tries to add lines of its own head stays one line.
test('no line of a head can be smuggled in by a subject or a name', async () => {
  const [got] = await sent(
    mail({ subject: 'Order\r\nBcc: thief@mail.example', brand: 'Shop"\r\nBcc: thief@mail.example' }),
  );
  expect(got!.bcc).toBeUndefined();
  expect(got!.headers.has('bcc')).toBe(false);
  expect(got!.subject).toContain('Order');
});

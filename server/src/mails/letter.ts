import type { SendMailOptions } from 'nodemailer';
import { asPage } from './filled.js';
import type { MailToSend } from './mails.queries.js';

/** The colour of a brand that has none of its own yet. */
export const PLAIN_COLOUR = '#33475b';

/**
 * A mail as it is handed to a mail server: text and page, in the look of its brand, from an address of the house. Its message id is its own
 * for good, so that what a server passed on twice is one in a mailbox.
 */
export function letterOf(mail: MailToSend, from: string, house: string): SendMailOptions {
  const brand = mail.brand ?? house;
  const look = { brand, colour: mail.colour ?? PLAIN_COLOUR, logo: mail.logo ? 'logo' : null };
  return {
    from: { name: brand, address: from },
    to: { name: '', address: mail.toWhom },
    subject: mail.subject,
    text: mail.text,
    html: asPage(look, mail.text),
    date: mail.at,
    messageId: `<${mail.id}@${from.split('@')[1]}>`,
    headers: { 'auto-submitted': 'auto-generated' },
    ...(mail.logo && {
      attachments: [{ filename: 'logo', content: mail.logo, contentType: mail.logoType!, cid: 'logo' }],
    }),
  };
}

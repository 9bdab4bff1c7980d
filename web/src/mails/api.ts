import { type AlertIn, type BrandIn, MailSetup, type MailTemplateIn, type MailWayIn } from '@auk/contract';
import { queryOptions } from '@tanstack/react-query';
import { get, send } from '../api.js';

/** All that is set about mails. */
export const mailsQuery = queryOptions({ queryKey: ['mails'], queryFn: () => get(MailSetup, 'mails') });

export const saveWay = (way: MailWayIn) => send('mails/way', way);
export const saveTemplate = (template: MailTemplateIn) => send('mails/templates', template);
export const removeTemplate = (id: string) => send(`mails/templates/${id}/remove`);
export const saveBrand = (channel: string, look: BrandIn) => send(`mails/brands/${channel}`, look);
export const saveLogo = (channel: string, file: Blob) => send(`mails/brands/${channel}/logo`, file);
export const saveAlert = (wish: AlertIn) => send('mails/alerts', wish);
export const removeAlert = (id: string) => send(`mails/alerts/${id}/remove`);
export const sendAgain = (id: string) => send(`mails/${id}/again`);

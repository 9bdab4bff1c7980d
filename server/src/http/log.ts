import { pino } from 'pino';

/** The server's log. AUK_LOG sets the level; scripts send it to a file of the data folder. */
export const log = pino({ level: process.env.AUK_LOG ?? 'info' });

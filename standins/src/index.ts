export * from './books.js';
export * from './carriers/desk.js';
export * from './channel.js';
export { MailDesk } from './mail.js';
export * from './server.js';

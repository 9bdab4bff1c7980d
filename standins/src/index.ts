export * from './books.js';
export * from './carrier.js';
export * from './channel.js';
export * from './server.js';

export * from './catalogue.js';
export * from './company.js';
export * from './listings.js';
export * from './network.js';
export * from './orders.js';
export * from './random.js';
export * from './rates.js';
export * from './rules.js';

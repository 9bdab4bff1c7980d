import { Standins } from './server.js';

const folder = process.env.AUK_STANDINS_FOLDER ?? '.data/standins';
const standins = new Standins(folder);
const port = await standins.listen(Number(process.env.AUK_STANDINS_PORT ?? 0));
console.log(`stand-ins listen on 127.0.0.1:${port}`);
process.on('SIGTERM', () => void standins.close().then(() => process.exit(0)));
process.on('SIGINT', () => void standins.close().then(() => process.exit(0)));

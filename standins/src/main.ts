import { Standins } from './server.js';

const folder = process.env.AUK_STANDINS_FOLDER ?? '.data/standins';
const standins = new Standins(folder);
// A new stand-in has sold a little already, so that the first pull brings something.
for (const desk of standins.channels.values())
  if (desk.sold === 0) desk.sell(Number(process.env.AUK_STANDINS_SELL ?? 6));
const port = await standins.listen(Number(process.env.AUK_STANDINS_PORT ?? 0));
await standins.scale.listen(Number(process.env.AUK_STANDINS_SCALE_PORT ?? 0));
await standins.mail.listen(Number(process.env.AUK_STANDINS_MAIL_PORT ?? 0));
console.log(`stand-ins listen on 127.0.0.1:${port}`);
process.on('SIGTERM', () => void standins.close().then(() => process.exit(0)));
process.on('SIGINT', () => void standins.close().then(() => process.exit(0)));

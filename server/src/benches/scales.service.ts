import { connect } from 'node:net';
import { readScaleLine, type ScaleReading, settledWeight } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db } from '../database/db.js';
import { Busy, Forbidden, NotHere } from '../http/problem.js';
import { Bench } from './bench.entity.js';

/** A scale that has not come to rest by then is left alone. */
const LONGEST_MS = 1_500;
/** Longest text between two line ends. */
const LONGEST_LINE = 200;

type Heard = { weight: number } | { trouble: 'silent' | 'unreached' | 'moving' | 'empty' | 'overloaded' };

/** The scales of the benches: they send lines over TCP, and the weight counts that lies still. */
@Injectable()
export class Scales {
  constructor(private readonly db: Db) {}

  /** What lies on a bench's scale, in milligrams. */
  async weigh(benchId: string): Promise<number> {
    const bench = await this.db.of(Bench).findOneBy({ id: benchId });
    if (!bench) throw new NotHere('That bench', 'Look at the list again.');
    if (!bench.scaleAt)
      throw new Forbidden(`${bench.name} has no scale.`, 'Type the weight, such as 1.2 kg.');
    const heard = await listen(bench.scaleAt);
    if ('weight' in heard) return heard.weight;
    throw new Busy(SAYS[heard.trouble], 'Put it down and wait, or type the weight, such as 1.2 kg.');
  }
}

const SAYS = {
  silent: 'The scale says nothing.',
  unreached: 'The scale cannot be reached.',
  moving: 'The scale does not come to rest.',
  empty: 'Nothing lies on the scale.',
  overloaded: 'The scale is overloaded.',
};

/** Listens to a scale until a weight lies still, or for as long as it may take. */
function listen(address: string): Promise<Heard> {
  const [host, port] = address.split(':');
  return new Promise(resolve => {
    /** The last two that were read: more is not looked at. */
    let readings: ScaleReading[] = [];
    let text = '';
    const socket = connect(Number(port), host);
    const end = (heard: Heard) => {
      clearTimeout(timer);
      socket.destroy();
      resolve(heard);
    };
    const timer = setTimeout(() => end({ trouble: troubleOf(readings) }), LONGEST_MS);
    socket.on('error', () => end({ trouble: 'unreached' }));
    socket.on('data', bytes => {
      const lines = (text + bytes.toString('latin1')).split(/\r?\n/);
      text = lines.pop()!.slice(-LONGEST_LINE);
      for (const line of lines) {
        const reading = readScaleLine(line);
        if (!reading) continue;
        readings = [...readings.slice(-1), reading];
        const weight = settledWeight(readings);
        if (weight !== null) return end({ weight });
      }
    });
  });
}

function troubleOf(readings: readonly ScaleReading[]): Exclude<Heard, { weight: number }>['trouble'] {
  const last = readings.at(-1);
  if (!last) return 'silent';
  if (last.state === 'overloaded') return 'overloaded';
  return last.state === 'moving' ? 'moving' : 'empty';
}

import { STATUS_CODES } from 'node:http';
import type { Duplex } from 'node:stream';
import { problemOf } from './problem.js';

/** Answers what is no HTTP, or has an address or headers longer than are read, as any other refusal; such requests come to no controller. */
export function answerUnreadable(error: NodeJS.ErrnoException, socket: Duplex): void {
  // Whoever hung up hears nothing more.
  if (error.code === 'ECONNRESET' || !socket.writable) return void socket.destroy();
  const problem =
    error.code === 'HPE_HEADER_OVERFLOW'
      ? problemOf('too-large', 'The address of the request is longer than is read.', 'Ask for less at once.')
      : problemOf('malformed', 'The request could not be read.', 'Check its form and its encoding.');
  const body = JSON.stringify(problem);
  socket.end(
    [
      `HTTP/1.1 ${problem.status} ${STATUS_CODES[problem.status]}`,
      'Content-Type: application/problem+json; charset=utf-8',
      `Content-Length: ${Buffer.byteLength(body)}`,
      'Connection: close',
      '',
      body,
    ].join('\r\n'),
  );
}

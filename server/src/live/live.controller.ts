import { Controller, Req, Sse } from '@nestjs/common';
import type { Request } from 'express';
import { endWith, ignoreElements, interval, map, merge, type Observable, share, takeUntil } from 'rxjs';
import { SignedIn } from '../http/access.js';
import { Answers } from '../http/api.js';
import { LiveService } from './live.service.js';

const BEAT_MS = 20_000;

@Controller('live')
export class LiveController {
  constructor(private readonly live: LiveService) {}

  /** What changed, as it changes; a beat keeps the line open. A browser that comes back says the last position it was told. */
  @Sse()
  @SignedIn()
  @Answers('events')
  stream(@Req() request: Request): Observable<{ data: object; id?: string }> {
    const last = Number(request.headers['last-event-id'] ?? request.query.after ?? Number.NaN);
    const changes = this.live.stream(Number.isSafeInteger(last) && last >= 0 ? last : null).pipe(share());
    const ended = changes.pipe(ignoreElements(), endWith(null));
    const beats = interval(BEAT_MS).pipe(
      map(() => ({ data: { id: 0, topic: 'beat', ref: '' } })),
      takeUntil(ended),
    );
    return merge(changes.pipe(map(m => ({ data: m, id: String(m.id) }))), beats);
  }
}

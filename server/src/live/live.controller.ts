import { Controller, Sse } from '@nestjs/common';
import { endWith, ignoreElements, interval, map, merge, type Observable, share, takeUntil } from 'rxjs';
import { SignedIn } from '../http/access.js';
import { LiveService } from './live.service.js';

const BEAT_MS = 20_000;

@Controller('live')
export class LiveController {
  constructor(private readonly live: LiveService) {}

  /** What changed, as it changes; a beat keeps the line open. */
  @Sse()
  @SignedIn()
  stream(): Observable<{ data: object }> {
    const changes = this.live.stream().pipe(share());
    const ended = changes.pipe(ignoreElements(), endWith(null));
    const beats = interval(BEAT_MS).pipe(
      map(() => ({ id: 0, topic: 'beat', ref: '' })),
      takeUntil(ended),
    );
    return merge(changes, beats).pipe(map(data => ({ data })));
  }
}

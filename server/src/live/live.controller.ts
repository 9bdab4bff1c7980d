import { Controller, Sse } from '@nestjs/common';
import { interval, map, merge, type Observable } from 'rxjs';
import { ALL_ROLES, Roles } from '../http/access.js';
import { LiveService } from './live.service.js';

const BEAT_MS = 20_000;

@Controller('live')
export class LiveController {
  constructor(private readonly live: LiveService) {}

  /** What changed, as it changes; a beat keeps the line open. */
  @Sse()
  @Roles(...ALL_ROLES)
  stream(): Observable<{ data: object }> {
    return merge(
      this.live.stream(),
      interval(BEAT_MS).pipe(map(() => ({ id: 0, topic: 'beat', ref: '' }))),
    ).pipe(map(data => ({ data })));
  }
}

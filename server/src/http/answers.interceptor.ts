import { type CallHandler, type ExecutionContext, Injectable, type NestInterceptor } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Response } from 'express';
import { map, type Observable } from 'rxjs';
import { ANSWERS, type Answer } from './api.js';

/** Checks every answer against the form that its endpoint says, and tells the front to check too. Tests switch it on: an answer of another form is a fault of ours. */
@Injectable()
export class AnswersInterceptor implements NestInterceptor {
  constructor(private readonly reflector: Reflector) {}

  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const said = this.reflector.get<Answer | undefined>(ANSWERS, context.getHandler());
    context.switchToHttp().getResponse<Response>().setHeader('auk-answers', 'checked');
    if (said === 'file' || said === 'events') return next.handle();
    return next.handle().pipe(
      map(value => {
        const sent = value === undefined ? undefined : JSON.parse(JSON.stringify(value));
        if (said === undefined) throw new Error(`${context.getHandler().name} does not say what it answers.`);
        if (said === 'nothing') {
          if (sent !== undefined)
            throw new Error(`${context.getHandler().name} says that it answers nothing.`);
          return value;
        }
        const read = said.safeParse(sent);
        if (!read.success)
          throw new Error(
            `${context.getClass().name}.${context.getHandler().name} answers otherwise than it says: ${read.error.issues[0]!.path.join('.')}: ${read.error.issues[0]!.message}`,
          );
        return value;
      }),
    );
  }
}

import type { LiveMessage, LiveTopic } from '@auk/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { changed } from './asked.js';
import { CHANNEL, holdConnection } from './listening.js';

/** Changes are gathered for this long, so that a busy floor does not make the Board ask for every scan. */
const GATHER_MS = 700;

/** Keeps every open screen fresh: one tab of the browser holds the connection and tells the others. */
export function useLive(signedIn: boolean): void {
  const client = useQueryClient();
  useEffect(() => {
    if (!signedIn) return;
    const topics = new Set<LiveTopic>();
    let timer: ReturnType<typeof setTimeout> | null = null;
    const flush = () => {
      timer = null;
      void changed(client, ...topics);
      topics.clear();
    };
    const heard = (message: LiveMessage) => {
      topics.add(message.topic);
      timer ??= setTimeout(flush, GATHER_MS);
    };
    const tabs = new BroadcastChannel(CHANNEL);
    tabs.onmessage = event => heard(event.data as LiveMessage);
    const gone = new AbortController();
    void holdConnection(gone.signal, message => {
      tabs.postMessage(message);
      heard(message);
    });
    return () => {
      gone.abort();
      tabs.close();
      if (timer) clearTimeout(timer);
    };
  }, [client, signedIn]);
}

/** Calls `then` when one thing of a topic changed; also after messages were missed. */
export function useHeard(topic: LiveTopic, ref: string, then: () => void): void {
  const newest = useRef(then);
  newest.current = then;
  useEffect(() => {
    const tabs = new BroadcastChannel(CHANNEL);
    tabs.onmessage = ({ data }) => {
      const heard = data as LiveMessage;
      if (heard.topic === 'all' || (heard.topic === topic && heard.ref === ref)) newest.current();
    };
    return () => tabs.close();
  }, [topic, ref]);
}

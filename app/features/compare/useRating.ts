import type { RatedDevice, RatingWeights } from '@pace-check/core';
import { useEffect, useRef, useState } from 'react';
import type { RatingAnswer, RatingRequest } from './rating.worker';

/** The rating under the weights that are set, computed in a worker; the last one stands until the next is there. */
export function useRating(devices: RatedDevice[], weights: RatingWeights): RatingAnswer | null {
  const [answer, setAnswer] = useState<RatingAnswer | null>(null);
  const worker = useRef<Worker | null>(null);
  const turn = useRef(0);
  const waiting = useRef<RatingRequest | null>(null);
  const busy = useRef(false);
  // the same devices, however often they are told anew
  const told = JSON.stringify(devices);
  useEffect(() => {
    const own = new Worker(new URL('./rating.worker', import.meta.url));
    worker.current = own;
    own.onmessage = ({ data }: MessageEvent<RatingAnswer>) => {
      setAnswer(data);
      // what came in meanwhile but the last is passed over
      busy.current = waiting.current !== null;
      if (waiting.current) own.postMessage(waiting.current);
      waiting.current = null;
    };
    busy.current = false;
    waiting.current = null;
    own.postMessage({ devices: JSON.parse(told) as RatedDevice[] } satisfies RatingRequest);
    return () => own.terminate();
  }, [told]);
  useEffect(() => {
    const request: RatingRequest = { weights, turn: ++turn.current };
    if (busy.current) waiting.current = request;
    else {
      busy.current = true;
      worker.current?.postMessage(request);
    }
  }, [weights, told]);
  return answer;
}

import { readNotebook, type PaperContext, type PaperLine } from '@pace-check/core';

export interface NotebookRequest {
  text: string;
  context: PaperContext;
}

/** Understands a long notebook off the main thread. */
self.onmessage = (event: MessageEvent<NotebookRequest>): void => {
  const lines: PaperLine[] = readNotebook(event.data.text, event.data.context);
  self.postMessage(lines);
};

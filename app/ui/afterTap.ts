/** Whether a finger or a button of the mouse is down. */
let down = false;

if (typeof document !== 'undefined') {
  const told = (now: boolean) => () => {
    down = now;
  };
  document.addEventListener('pointerdown', told(true), true);
  for (const end of ['pointerup', 'pointercancel']) document.addEventListener(end, told(false), true);
}

/**
 * Does something when the tap that is going on has arrived: what would move on
 * the page before that would be tapped in the wrong place. At once where
 * nothing is down.
 */
export function afterTap(act: () => void): void {
  if (!down) return void setTimeout(act, 0);
  const ends = ['pointerup', 'pointercancel'];
  const arrived = (): void => {
    for (const end of ends) document.removeEventListener(end, arrived, true);
    setTimeout(act, 0);
  };
  for (const end of ends) document.addEventListener(end, arrived, true);
}

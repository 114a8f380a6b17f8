import { ENTER_PATH, JOIN_PATH } from './entryPaths';

/** Pages before anybody is known: plain, so that they need no script and no file of the app. */

const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** Asks for the passcode. @param then where it leads @param said what went wrong; null at first */
export const entryPage = (then: string, said: string | null): string =>
  page(
    'Sign in',
    `<form method="post" action="${ENTER_PATH}">
<label for="passcode">Passcode</label>
<input id="passcode" name="passcode" type="password" autocomplete="current-password" autocapitalize="none" spellcheck="false" required autofocus${describedBy(said)}>
<label for="name">Device name (shown in the list of devices)</label>
<input id="name" name="name" autocomplete="off" maxlength="120" placeholder="such as “laptop”">
<input type="hidden" name="then" value="${escaped(then)}">
${alert(said)}
<button>Sign in</button>
</form>
<p><a href="${JOIN_PATH}">Use a six-digit code instead</a></p>
<p class="quiet">The passcode is set with “npm run passcode” on the machine that runs Pace Check.</p>`,
  );

/** Takes six digits, or the token of a QR code. @param token null where digits are typed */
export const joinPage = (token: string | null, said: string | null): string =>
  page(
    'Join as a device',
    token !== null
      ? `<p>Code scanned. It works once.</p>
<form method="post" action="${JOIN_PATH}">
<input type="hidden" name="token" value="${escaped(token)}">
<button autofocus>Sign in on this device</button>
</form>`
      : `<form method="post" action="${JOIN_PATH}">
<label for="code">Six-digit code from the reviewer’s screen</label>
<input id="code" name="code" class="digits" inputmode="numeric" autocomplete="one-time-code" pattern="[0-9 ]{6,9}" title="six digits" required autofocus${describedBy(said)}>
${alert(said)}
<button>Sign in</button>
</form>
<p><a href="${ENTER_PATH}">Use the passcode instead</a></p>`,
  );

const alert = (said: string | null): string =>
  said === null ? '' : `<p role="alert" id="said">${escaped(said)}</p>`;
const describedBy = (said: string | null): string =>
  said === null ? '' : ' aria-invalid="true" aria-describedby="said"';

const page = (title: string, body: string): string => `<!DOCTYPE html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Pace Check: ${title.toLowerCase()}</title>
<style>
:root{color-scheme:light dark;--paper:#eef1f3;--ink:#182026;--quiet:#4a555d;--action:#a8430a;--sheet:#fff;--line:#6b7780}
@media(prefers-color-scheme:dark){:root{--paper:#14191d;--ink:#e8edf0;--quiet:#a9b4bb;--action:#ffab70;--sheet:#1d2429;--line:#8a969e}}
body{margin:0;background:var(--paper);color:var(--ink);font:18px/1.5 system-ui,sans-serif}
main{max-width:24rem;margin:0 auto;padding:3rem 1rem}
.mark{margin:0;font-weight:600;color:var(--quiet)}
h1{font-size:1.6rem;margin:0 0 1rem}
label{display:block;margin-top:1rem}
input,button{font:inherit;width:100%;min-height:52px;box-sizing:border-box;border-radius:6px;margin-top:.35rem}
input{background:var(--sheet);color:var(--ink);border:1px solid var(--line);padding:0 .75rem}
::placeholder{color:var(--quiet);opacity:1}
.digits{font-size:1.8rem;letter-spacing:.3em;font-variant-numeric:tabular-nums}
button{background:var(--action);color:var(--sheet);border:0;font-weight:600;margin-top:1.25rem}
a{color:var(--action);display:inline-block;padding:.7rem 0}
.quiet{color:var(--quiet);font-size:1rem}
@media(prefers-color-scheme:dark){button{color:#14191d}}
[role=alert]{color:var(--action);font-weight:600}
</style></head><body><main>
<p class="mark">Pace Check</p>
<h1>${title}</h1>
${body}
</main></body></html>`;

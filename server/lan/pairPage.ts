import { createHash } from 'node:crypto'

/** The one page that answers a stranger: it takes a code and a name, and asks nothing of any other file. */

const STYLE = `
:root { color-scheme: light dark; font: 17px/1.5 system-ui, sans-serif; }
body { max-width: 26rem; margin: 0 auto; padding: 2rem 1.25rem; }
h1 { font-size: 1.5rem; margin: 0 0 .5rem; }
label { display: block; margin-top: 1.25rem; font-weight: 600; }
input { width: 100%; box-sizing: border-box; font: inherit; padding: .7rem .8rem; border: 1px solid GrayText;
  border-radius: .5rem; }
#code { font-size: 1.5rem; letter-spacing: .15em; text-transform: uppercase; }
button { width: 100%; margin-top: 1.5rem; font: inherit; font-weight: 600; padding: .8rem; border: 0;
  border-radius: .5rem; background: #14532d; color: #fff; }
button:disabled { opacity: .6; }
[role=alert] { min-height: 1.5rem; margin: 1rem 0 0; color: #b42318; }
@media (prefers-color-scheme: dark) { [role=alert] { color: #ff9c8f; } }
details { margin-top: 2rem; }
`

const SCRIPT = `
const form = document.querySelector('form'), said = document.querySelector('[role=alert]')
const { code, name } = form.elements, button = form.querySelector('button')
code.value = decodeURIComponent(location.hash.slice(1))
history.replaceState(null, '', location.pathname)
if (!code.value) code.focus()
form.addEventListener('submit', async event => {
  event.preventDefault()
  button.disabled = true
  said.textContent = ''
  try {
    const answer = await fetch('/pair', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ code: code.value, name: name.value }),
    })
    if (answer.ok) return location.replace('/')
    said.textContent = (await answer.json()).message
  } catch {
    said.textContent = 'The station does not answer. Is this phone on the same net?'
  }
  button.disabled = false
})
`

export const PAIR_PAGE = `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Wireman: let this device in</title>
<style>${STYLE}</style>
<h1>Let this device in</h1>
<p>The station’s own screen shows a code: “On a phone”.</p>
<form>
<label for="code">Code</label>
<input id="code" name="code" autocomplete="off" autocapitalize="characters" spellcheck="false" maxlength="12" required>
<label for="name">Name of this device</label>
<input id="name" name="name" autocomplete="off" maxlength="40" value="Phone" required>
<button>Let it in</button>
<p role="alert"></p>
</form>
<details>
<summary>To use it without the net as well</summary>
<p>Let this device trust the station once: <a href="/pair/authority.crt">take its certificate</a>, and install it as a
CA certificate in the device’s settings. It holds for addresses of local nets alone. Without it the pages open after
the browser’s warning, and only while the station answers.</p>
</details>
<script>${SCRIPT}</script>
</html>
`

const hashOf = (text: string) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`

export const PAIR_PAGE_POLICY = [
  "default-src 'none'",
  `script-src ${hashOf(SCRIPT)}`,
  `style-src ${hashOf(STYLE)}`,
  "connect-src 'self'",
  "form-action 'none'",
  "base-uri 'none'",
  "frame-ancestors 'none'",
].join('; ')

// Keeps one page of its own for when the application is away: a browser's own would be white.
const PATIENCE_MS = 3000
const AWAY = `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="color-scheme" content="dark">
<title>Jade Perch is away</title>
<style>
html { background: #000; color: #f00; color-scheme: dark; font: 18px/1.45 system-ui, sans-serif; }
html[data-regime='dusk'] { background: #0b1310; color: #d8e3da; }
html[data-regime='daylight'] { background: #f5f2e9; color: #17251f; color-scheme: light; }
main { max-width: 34em; margin: 12vh auto 0; padding: 0 24px; }
h1 { font-size: 24px; } button { font: inherit; font-weight: 700; color: inherit; background: none; border: 2px solid; border-radius: 12px; min-height: 52px; padding: 0 20px; }
button:focus-visible { outline: 3px solid; outline-offset: 3px; }
</style>
<script>
try { var regime = JSON.parse(localStorage.getItem('jade-perch.regime') || '"dark"') } catch (error) { regime = 'dark' }
document.documentElement.dataset.regime = ['daylight', 'dusk'].indexOf(regime) >= 0 ? regime : 'dark'
</script>
</head>
<body><main>
<h1>The application does not answer</h1>
<p>Start it again where it runs. Nothing stored is lost, and what you typed here is kept.</p>
<p id="tries" role="status">This page looks for it every two seconds and opens by itself as soon as it answers.</p>
<p><button type="button" id="now">Look now</button></p>
</main>
<script>
var isLooking = false
function look () {
  if (isLooking) return
  isLooking = true
  fetch('/regime.js', { cache: 'no-store' }).then(function (answer) { if (answer.ok) location.reload() })
    .catch(function () {}).then(function () { isLooking = false })
}
setInterval(look, 2000)
document.getElementById('now').onclick = look
</script>
</body></html>`

self.addEventListener('install', () => self.skipWaiting())
self.addEventListener('activate', event => event.waitUntil(self.clients.claim()))
self.addEventListener('fetch', event => {
  if (event.request.mode !== 'navigate') return
  const stop = new AbortController()
  const timer = setTimeout(() => stop.abort(), PATIENCE_MS)
  event.respondWith(fetch(event.request, { signal: stop.signal })
    .catch(() => new Response(AWAY, { status: 503, headers: { 'Content-Type': 'text/html; charset=utf-8' } }))
    .finally(() => clearTimeout(timer)))
})

// What a browser keeps of Kolvan for while it is not connected: the pages of a rig that was
// looked at, with their drawings and steps, and what is entered at the bench meanwhile, which
// is sent in order as soon as Kolvan answers. What may wait so is told by the server (atBench).
import { openDB } from 'idb'

const kept = 'kolvan-pages-1'
const mostKept = 500
const page = /^\/$|^\/rigs\/\d+\/[a-z]+$/
const file = /^\/static\/|^\/rigs\/\d+\/picture\//
const follows = /^\/rigs\/\d+\/(heard|parts|cards|[a-z]+\/verdict)$/ // what a page asks for by itself

self.addEventListener('install', () => self.skipWaiting())
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (url.origin !== location.origin) return
  if (request.method === 'POST') {
    if (self.atBench.test(url.pathname)) event.respondWith(entered(request))
    return
  }
  if (request.method !== 'GET') return
  const part = request.headers.has('HX-Request')
  if (part && follows.test(url.pathname)) event.respondWith(fetch(request).catch(() => new Response(null, { status: 204 })))
  else if (request.mode === 'navigate' || file.test(url.pathname) || (part && page.test(url.pathname))) event.respondWith(looked(event, url, part))
})

self.addEventListener('message', (event) => {
  const { keep, send, letGo, connected } = event.data
  if (connected) asOf = null
  if (keep) event.waitUntil(keepAll(keep))
  if (send) event.waitUntil(sendAll(send === 'again'))
  if (letGo) event.waitUntil(waiting.then((db) => db.delete('waiting', letGo)).then(tell))
})

let asOf = null // when the page that was shown last was kept; null where Kolvan answered

// looked answers from Kolvan, else with what was kept of the page.
async function looked(event, url, part) {
  let answer
  try {
    answer = await fetch(event.request)
  } catch {
    const pages = await caches.open(kept)
    const was = (await pages.match(url.href)) ?? (await pages.match(url.origin + url.pathname))
    if (!was) return notKept(part, pages)
    if (!file.test(url.pathname)) asOf = was.headers.get('Date')
    event.waitUntil(tell())
    return part ? regionOf(was) : was
  }
  if (!file.test(url.pathname)) asOf = null // a file may come from the browser's own store
  event.waitUntil(keep(url, answer.clone(), part))
  return answer
}

// keep keeps a page of the bench or of a rig, and what it shows; a device that was ended keeps
// none. Where there is no room for it the page is shown all the same.
async function keep(url, answer, part) {
  if (answer.status === 401) await caches.delete(kept)
  const isPage = page.test(url.pathname) && answer.headers.get('Content-Type')?.startsWith('text/html')
  if (part || answer.status !== 200 || answer.redirected || !(isPage || file.test(url.pathname))) return
  try {
    const pages = await caches.open(kept)
    await pages.put(url.href, answer)
    const all = await pages.keys()
    for (const old of all.slice(0, Math.max(0, all.length - mostKept))) await pages.delete(old)
  } catch (full) {
    console.warn('this page is not kept', full)
  }
}

async function keepAll(list) {
  for (const address of list) {
    const url = new URL(address, location.origin)
    try {
      await keep(url, await fetch(url))
    } catch {
      return
    }
  }
}

// regionOf is what htmx asks for of a page that was kept whole.
async function regionOf(was) {
  const text = await was.text()
  return new Response(text.slice(text.indexOf('<div id="rig"'), text.indexOf('<div id="ear"')), { headers: { 'Content-Type': 'text/html' } })
}

// notKept says that there is no such page, and which there are.
async function notKept(part, pages) {
  const says = 'Kolvan does not answer, and this page was not looked at on this device before.'
  if (part) return new Response(says, { status: 504 })
  const rigs = new Map()
  for (const { url } of await pages.keys()) {
    const [, rig] = new URL(url).pathname.match(/^\/rigs\/(\d+)\/[a-z]+$/) ?? []
    if (rig && !rigs.has(rig)) rigs.set(rig, `<li><a class="button" href="${url}">${(await (await pages.match(url)).text()).match(/<title>[^:<]*: (.*?) · Kolvan/)?.[1] ?? url}</a></li>`)
  }
  const list = rigs.size ? `<p>Kept here:</p><ul>${[...rigs.values()].join('')}</ul>` : ''
  return new Response(`<!DOCTYPE html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Not connected · Kolvan</title><link rel="stylesheet" href="/static/app.css"><div class="page narrow"><header class="top"><a class="brand" href="/">Kolvan</a></header><main><h1>Not connected</h1><p>${says}</p>${list}</main></div></html>`, { status: 504, headers: { 'Content-Type': 'text/html', 'Content-Security-Policy': "default-src 'none'; style-src 'self'; font-src 'self'" } })
}

// What waits lies in the browser's own store, where a restart of the device leaves it.
const waiting = openDB('kolvan', 1, { upgrade: (db) => db.createObjectStore('waiting', { keyPath: 'id', autoIncrement: true }) })

// entered sends what was entered, or has it wait.
async function entered(request) {
  const copy = request.clone()
  try {
    return await fetch(request)
  } catch (fault) {
    if (request.signal.aborted) throw fault // who sent it went on: it may have come to Kolvan
    const entry = { url: request.url, type: request.headers.get('Content-Type') ?? '', body: await copy.arrayBuffer(), at: Date.now() }
    const says = decodeURIComponent(request.headers.get('Kolvan-Says') ?? '')
    await (await waiting).add('waiting', { ...entry, says: short(says) || wordsOf(entry) })
    await tell()
    return request.headers.has('HX-Request') ? new Response(null, { status: 204 }) : Response.redirect(request.referrer || '/', 303)
  }
}

const words = { done: 'a step', step: 'a step', hand: 'a tool', try: 'a try', line: 'a line', picture: 'a picture', run: 'a run', results: 'results', keep: 'a reading' }

// wordsOf names what waits as a person knows it again.
function wordsOf({ url, type, body }) {
  const form = new URLSearchParams(type.includes('urlencoded') ? new TextDecoder().decode(body) : new URL(url).search)
  const of = form.get('text') || form.get('remark') || form.get('step') || form.get('tool')
  return (words[new URL(url).pathname.split('/').pop()] ?? 'an entry') + (of ? ': ' + short(of) : '')
}

// short cuts a text between words.
const short = (text) => (text.length > 60 ? text.slice(0, 60).replace(/[\s,;:]+\S*$/, '') + ' …' : text)

let sending = null

// sendAll sends what waits, in order; what was refused before only when that is wanted.
function sendAll(refusedToo) {
  sending ??= sendEach(refusedToo).finally(() => {
    sending = null
    return tell()
  })
  return sending
}

async function sendEach(refusedToo) {
  const db = await waiting
  for (const { refused, ...entry } of await db.getAll('waiting')) {
    if (refused && !refusedToo) continue
    const token = await fetch('/token').catch(() => null)
    if (!token?.ok) return
    const headers = { 'X-Csrf-Token': await token.text(), 'HX-Request': 'true', 'Kolvan-Waited': String(Math.max(0, Math.round((Date.now() - entry.at) / 1000))) }
    if (entry.type) headers['Content-Type'] = entry.type
    const answer = await fetch(entry.url, { method: 'POST', body: entry.body, headers }).catch(() => null)
    if (!answer || answer.status >= 500) return
    if (answer.ok) await db.delete('waiting', entry.id)
    else await db.put('waiting', { ...entry, refused: await answer.text() })
  }
}

// tell has the open pages show what waits, and of when the page is that they show.
async function tell() {
  const list = (await (await waiting).getAll('waiting')).map(({ id, url, says, refused }) => ({ id, url, says, refused }))
  for (const page of await self.clients.matchAll()) page.postMessage({ waiting: list, asOf })
}

// What is purely local to the page: keys, dialogs, dragging, and telling a person
// when something was not kept. Everything that counts is worked out on the server.
import Alpine from '@alpinejs/csp'
import htmx from 'htmx.org'
import 'htmx-ext-sse'
import { Idiomorph } from 'idiomorph/htmx'
import uPlot from 'uplot'

// What is being typed stays while the region around it is made anew. Of a button that
// has the focus the inside is made anew all the same.
document.addEventListener('htmx:beforeSwap', () => {
  Idiomorph.defaults.ignoreActiveValue = document.activeElement?.matches('input, select, textarea') ?? false
})

// What an answer says to keep stays as it is: the verdict, until its own answer is here. Where
// a page is made anew since something was changed elsewhere, what was typed and not sent yet stays.
let hearing = false
const typed = (el) => el instanceof Element && el.matches('input:not([type=hidden], [type=checkbox], [type=radio], [type=file]), textarea') && el.value !== el.defaultValue
Idiomorph.defaults.callbacks.beforeNodeMorphed = (was, made) => !(made instanceof Element && made.hasAttribute('data-keep')) && !(hearing && typed(was))

// What somebody unfolded stays unfolded.
Idiomorph.defaults.callbacks.beforeAttributeUpdated = (name, el) => !(name === 'open' && el.tagName === 'DETAILS')

// A page hears of what is changed elsewhere, while it is looked at: a browser has few lines to one
// machine. One that follows the bench's own screen goes where that goes.
let line = null
const follows = () => localStorage.getItem('kolvan-follow') === 'yes' && document.querySelector('[x-data=follow]') !== null
const goAlong = (page) => {
  const to = new URL(page, location.href)
  if (!follows() || to.pathname + to.search === location.pathname + location.search) return
  if (to.pathname.split('/')[2] !== location.pathname.split('/')[2]) {
    location.assign(to)
    return
  }
  htmx.ajax('GET', page, { target: '#rig', swap: 'morph:outerHTML', headers: { 'Kolvan-Follows': 'yes' } })
  history.replaceState(null, '', to)
}
document.addEventListener('htmx:sseOpen', (event) => (line = event.detail.source))
document.addEventListener('htmx:configRequest', (event) => {
  const { elt, parameters, triggeringEvent } = event.detail
  if (elt.id === 'shown') {
    event.preventDefault()
    goAlong(triggeringEvent.detail.data)
  }
  if (elt.id !== 'heard') return
  elt.parentElement.setAttribute('sse-connect', '/events?seen=' + encodeURIComponent(triggeringEvent.detail.data))
  for (const [name, value] of new URLSearchParams(location.search)) if (!parameters.has?.(name)) parameters[name] ??= value
})
// What was heard is of the page that asked: one that went on meanwhile asks again.
document.addEventListener('htmx:beforeSwap', (event) => {
  const { elt, parameters, triggeringEvent } = event.detail.requestConfig ?? {}
  hearing = elt?.id === 'heard'
  if (!hearing || [...document.querySelectorAll('#state input')].every((was) => was.value === parameters[was.name])) return
  event.detail.shouldSwap = false
  setTimeout(() => htmx.trigger(elt, 'sse:changed', { data: triggeringEvent.detail.data }), 50)
})
document.addEventListener('htmx:afterSettle', () => (hearing = false))
document.addEventListener('visibilitychange', () => {
  const ear = document.getElementById('ear')
  if (!ear) return
  if (document.hidden) {
    line?.close()
    return
  }
  const again = ear.cloneNode(true)
  ear.replaceWith(again)
  htmx.process(again)
})

// follow has a device beside the machine show what the bench's own screen shows, or not any more.
Alpine.data('follow', () => ({
  init() {
    this.$el.setAttribute('aria-pressed', follows())
  },
  turn() {
    localStorage.setItem('kolvan-follow', follows() ? 'no' : 'yes')
    this.$el.setAttribute('aria-pressed', follows())
    if (follows()) document.dispatchEvent(new Event('visibilitychange')) // hear at once where that is
  },
}))

const typing = (el) => el.closest('input, select, textarea, dialog[open]') !== null

const press = (selector) => document.querySelector(selector)?.click()

// keys: arrows between stations, undo and redo, the parts dialog, the list of keys.
Alpine.data('keys', () => ({
  goal: null, // the station that quick presses are on the way to
  init() {
    document.addEventListener('htmx:afterRequest', (event) => {
      if (!event.detail.successful) this.goal = null
      this.go()
    })
  },
  walk(by) {
    const stops = [...document.querySelectorAll('a.stop')]
    const here = this.goal ?? stops.findIndex((stop) => stop.hasAttribute('aria-current'))
    this.goal = Math.min(Math.max(here + by, 0), stops.length - 1)
    this.go()
  },
  // go waits for what is under way, then goes where the last press wants to be.
  go() {
    if (this.goal === null || document.querySelector('#rig.htmx-request, #rig .htmx-request')) return
    const stop = document.querySelectorAll('a.stop')[this.goal]
    if (stop && !stop.hasAttribute('aria-current')) stop.click()
    else this.goal = null
  },
  // to is where g and a letter lead.
  to: { b: 'Brief', s: 'Survey', r: 'Route', p: 'Power', f: 'Fit', a: 'Assembly', o: 'Proof', d: 'Ledger', h: 'Sheet' },
  going: false,
  next(selector) {
    const all = [...document.querySelectorAll(selector)].filter((el) => el.getClientRects().length)
    const on = all[(all.indexOf(document.activeElement) + 1) % all.length]
    on?.focus()
    on?.scrollIntoView({ block: 'nearest' })
  },
  // column walks a column of the ledger up and down.
  column(event, by) {
    const cell = event.target.closest?.('.ledger-lines td')
    if (!cell || event.target.matches('select')) return false
    const row = cell.parentElement[by < 0 ? 'previousElementSibling' : 'nextElementSibling']
    const on = row?.children[cell.cellIndex]?.querySelector('.read')
    if (!on) return false
    on.focus()
    event.preventDefault()
    return true
  },
  // along walks a list by its arrows; false where the focus is in none.
  along(event, by) {
    const list = event.target.closest?.('.found, .entries, .list ul, .choices tbody, .meter-list, .rigs, .verdict, .start-steps')
    if (!list || event.target.closest('[data-drag]')) return false
    const all = [...list.querySelectorAll('a[href], button, summary, input, select')].filter((el) => el.getClientRects().length)
    const on = all[all.indexOf(document.activeElement) + by]
    if (!on) return false
    on.focus()
    event.preventDefault()
    return true
  },
  press(event) {
    if (event.ctrlKey || event.metaKey || event.altKey || handsFull()) return
    if (event.key === 'Enter' && event.target.matches?.('#dialog-parts input[type=search], .start input[type=search]')) {
      event.preventDefault()
      event.target.closest('dialog, .start').querySelector('.found button, .found a')?.click()
      return
    }
    if (event.key === 'ArrowDown' && event.target.matches?.('input[type=search]')) {
      event.preventDefault()
      event.target.closest('dialog, .start')?.querySelector('.found button, .found a')?.focus()
      return
    }
    if ((event.key === 'ArrowDown' || event.key === 'ArrowUp') && this.column(event, event.key === 'ArrowDown' ? 1 : -1)) return
    if ((event.key === 'ArrowDown' || event.key === 'ArrowUp') && !event.target.matches?.('select') && this.along(event, event.key === 'ArrowDown' ? 1 : -1)) return
    if (typing(event.target)) return
    if (this.going) {
      this.going = false
      const stop = [...document.querySelectorAll('a.stop')].find((el) => el.querySelector('b').textContent === this.to[event.key])
      if (stop) {
        event.preventDefault()
        stop.click()
        return
      }
    }
    const actions = {
      g: () => (this.going = true),
      n: () => this.next('.question input:not([type=hidden]), .question select, .question h3 a'),
      c: () => this.next('.press, .fix.first, .fix'),
      l: () => {
        document.getElementById('dialog-line')?.showModal()
        document.querySelector('#dialog-line input')?.focus()
      },
      ArrowLeft: () => this.walk(-1),
      ArrowRight: () => this.walk(1),
      z: () => press('[data-undo]'),
      Z: () => press('[data-redo]'),
      '/': () => press('[data-open=parts]'),
      '?': () => press('[data-open=keys]'),
      Escape: () => press('[data-close]'),
    }
    const action = actions[event.key]
    if (!action || (event.key.startsWith('Arrow') && event.target.closest('[data-drag]'))) return
    event.preventDefault()
    action()
  },
}))

// opener opens the dialog its button names, at the kind of part it asks for.
Alpine.data('opener', () => ({
  open() {
    const dialog = document.getElementById('dialog-' + this.$el.dataset.open)
    const kind = dialog.querySelector('select[name=kind]')
    if (kind) {
      kind.value = this.$el.dataset.kind ?? ''
      htmx.trigger(kind, 'change')
    }
    dialog.showModal()
    htmx.trigger(dialog, 'opened')
    dialog.querySelector('input')?.select()
  },
}))

// cell is read until it is pressed, then it is a field; the arrows walk along its row.
Alpine.data('cell', () => ({
  open() {
    const field = this.$root.querySelector('input, select')
    this.$root.querySelector('.read').hidden = true
    field.hidden = false
    field.focus()
    field.select?.()
  },
  shut() {
    this.$root.querySelector('input, select').hidden = true
    this.$root.querySelector('.read').hidden = false
  },
  key(event) {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
    if (!by) return
    event.preventDefault()
    event.stopPropagation()
    const all = [...this.$root.closest('tr').querySelectorAll('.read, .more-of')]
    all[all.indexOf(event.target) + by]?.focus()
  },
}))

Alpine.data('closer', () => ({
  close() {
    this.$el.closest('dialog').close()
  },
}))

// emptied is a form that begins anew once what it sent was kept.
Alpine.data('emptied', () => ({
  empty(event) {
    if (event.detail.successful) this.$root.reset()
  },
}))

// traces draws the runs once more, to look closer: a stretch is drawn out with the pointer,
// a double press shows all of it again, and under the pointer stand the frames' times.
Alpine.data('traces', () => ({
  async open() {
    const at = this.$root.querySelector('.closer')
    if (at.childElementCount) {
      at.replaceChildren()
      this.$el.setAttribute('aria-expanded', 'false')
      return
    }
    const { runs } = await (await fetch(this.$root.dataset.of)).json()
    const style = getComputedStyle(this.$root)
    const colour = (name) => style.getPropertyValue(name).trim()
    const ink = { before: '#8fb6d6', after: '#ffd9ad', elsewhere: '#e6e6dc' }
    const longest = Math.max(...runs.map((run) => run.trace_ms.length))
    const columns = [[...Array(longest).keys()], ...runs.map((run) => [...run.trace_ms, ...Array(longest - run.trace_ms.length).fill(null)])]
    const axis = { stroke: colour('--on-mat-soft'), grid: { stroke: colour('--mat-line'), width: 1 }, ticks: { stroke: colour('--mat-line') }, font: '13px "DM Mono"' }
    new uPlot({
      width: at.clientWidth, height: 280, scales: { x: { time: false } },
      axes: [{ ...axis, values: (u, ticks) => ticks.map((t) => Math.round((100 * t) / Math.max(1, longest - 1)) + ' %') }, { ...axis, size: 70, values: (u, ticks) => ticks.map((t) => t + ' ms') }],
      series: [{ label: 'of the run', value: (u, t) => (t === null ? '' : Math.round((100 * t) / Math.max(1, longest - 1)) + ' %') }, ...runs.map((run) => ({ label: run.name, stroke: ink[run.side] ?? ink.elsewhere, width: 1.3, value: (u, ms) => (ms === null ? '' : ms + ' ms') }))],
    }, columns, at)
    this.$el.setAttribute('aria-expanded', 'true')
  },
}))

// saveAs hands a file to the person.
const saveAs = (name, href) => {
  const link = document.createElement('a')
  link.download = name
  link.href = href
  link.click()
}

const asAddress = (svg) => 'data:image/svg+xml;charset=utf-8,' + encodeURIComponent(svg)

// pixels draws an SVG twice as large as it is.
const pixels = async (svg) => {
  const picture = new Image()
  picture.src = asAddress(svg)
  await picture.decode()
  const canvas = document.createElement('canvas')
  canvas.width = 2 * picture.naturalWidth
  canvas.height = 2 * picture.naturalHeight
  canvas.getContext('2d').drawImage(picture, 0, 0, canvas.width, canvas.height)
  return canvas.toDataURL('image/png')
}

// standing is a drawing of the page as a picture of its own: what the style says of each of
// its parts is written into it.
const standing = (svg) => {
  const copy = svg.cloneNode(true)
  const parts = copy.querySelectorAll('*')
  svg.querySelectorAll('*').forEach((el, i) => {
    const style = getComputedStyle(el)
    for (const name of ['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'font-family', 'font-size', 'font-weight', 'text-anchor']) parts[i].setAttribute(name, style.getPropertyValue(name))
  })
  const box = svg.viewBox.baseVal
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', box.width)
  copy.setAttribute('height', box.height)
  return copy.outerHTML
}

// asPNG saves a drawing of the server's as pixels; ofPage saves the drawing beside its
// button as it stands on the page.
Alpine.data('asPNG', () => ({
  async save() {
    const at = this.$el.dataset.of
    saveAs(at.split('/').pop().replace('.svg', '.png'), await pixels(await (await fetch(at)).text()))
  },
}))
Alpine.data('ofPage', () => ({
  svg() {
    saveAs(this.$root.dataset.name + '.svg', asAddress(standing(this.$root.querySelector('svg'))))
  },
  async png() {
    saveAs(this.$root.dataset.name + '.png', await pixels(standing(this.$root.querySelector('svg'))))
  },
}))

// capture takes a table that is dropped on the form as if it were chosen.
Alpine.data('capture', () => ({
  over() {},
  take(event) {
    const input = this.$root.querySelector('input[type=file]')
    if (event.dataTransfer.files.length === 0) return
    input.files = event.dataTransfer.files
    htmx.trigger(input, 'change')
  },
}))

// onBoard moves a slot on the map of the board: with the pointer, or with the arrow
// keys; a press without moving chooses it.
Alpine.data('onBoard', () => ({
  from: null,
  by: null,
  start(event) {
    this.from = { x: event.clientX, y: event.clientY }
    this.by = null
    this.$el.setPointerCapture(event.pointerId)
  },
  move(event) {
    if (!this.from) return
    const scale = this.$el.ownerSVGElement.getScreenCTM().a
    this.by = { x: (event.clientX - this.from.x) / scale, y: (event.clientY - this.from.y) / scale }
    this.$el.setAttribute('transform', `translate(${this.by.x} ${this.by.y})`)
  },
  end() {
    const by = this.by
    this.from = null
    if (by && Math.hypot(by.x, by.y) >= 4) return this.place(by)
    this.by = null
    this.$el.removeAttribute('transform')
  },
  press(event) {
    event.preventDefault()
    if (this.by === null) htmx.trigger(this.$el, 'chosen')
    this.by = null
  },
  key(event) {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
    if (!step) return
    event.preventDefault()
    event.stopPropagation()
    const size = event.shiftKey ? 20 : 4
    this.place({ x: step[0] * size, y: step[1] * size })
  },
  place(by) {
    const { x, y, w, h, slot, plan, post } = this.$el.dataset
    const values = { slot, plan, x: Number(x) + Number(w) / 2 + by.x, y: Number(y) + Number(h) / 2 + by.y }
    htmx.ajax('POST', post, { source: document.getElementById('state'), target: '#rig', swap: 'morph:outerHTML', values }).finally(() => this.$el.removeAttribute('transform'))
  },
}))

// drop takes rig files dropped anywhere on the bench.
Alpine.data('drop', () => ({
  over: false,
  enter(event) {
    event.preventDefault()
    this.over = true
  },
  leave() {
    this.over = false
  },
  take(event) {
    event.preventDefault()
    this.over = false
    const input = this.$root.querySelector('input[type=file]')
    input.files = event.dataTransfer.files
    input.form.requestSubmit()
  },
  chosen(event) {
    event.target.form.requestSubmit()
  },
}))

// edgesOf are where the walls and things of a view have their edges, on the screen.
const edgesOf = (view, but) => {
  const boxes = [...view.querySelectorAll('rect')].filter((el) => !but?.contains(el) && !el.closest('.gap')).map((el) => el.getBoundingClientRect())
  return { x: boxes.flatMap((b) => [b.left, b.right]), y: boxes.flatMap((b) => [b.top, b.bottom]) }
}

// snap is how far something has to go to the nearest edge, if it is near one.
const near = 5 // px
const snap = (faces, edges) => {
  let least = near
  let by = 0
  for (const face of faces) {
    for (const edge of edges) {
      if (Math.abs(edge - face) < least) {
        least = Math.abs(edge - face)
        by = edge - face
      }
    }
  }
  return by
}

// measuring turns the ruler on and off.
Alpine.data('measuring', () => ({
  turn() {
    const on = this.$el.getAttribute('aria-pressed') !== 'true'
    this.$el.setAttribute('aria-pressed', on)
    const line = document.querySelector('[data-rule]')
    line.toggleAttribute('hidden', !on)
    line.querySelector('path').setAttribute('d', '')
    const text = line.querySelector('text')
    text.setAttribute('x', 436)
    text.setAttribute('y', 16)
    text.textContent = 'Press at one edge and then at another of the same view.'
  },
}))

// ruler measures between two presses in one view, from edge to edge where one is near.
Alpine.data('ruler', () => ({
  from: null,
  on: () => document.querySelector('[data-measure]')?.getAttribute('aria-pressed') === 'true',
  at(event) {
    const svg = this.$root
    const screen = svg.getScreenCTM()
    const view = this.from?.view ?? [...svg.querySelectorAll('[data-view]')].find((el) => {
      const b = el.querySelector('.ground').getBoundingClientRect()
      return event.clientX >= b.left - near && event.clientX <= b.right + near && event.clientY >= b.top - near && event.clientY <= b.bottom + near
    })
    if (!view) return null
    const edges = edgesOf(view)
    const walls = view.querySelector('.ground').getBoundingClientRect()
    const within = (v, low, high) => Math.min(Math.max(v, low), high)
    const x = within(event.clientX + snap([event.clientX], edges.x), walls.left, walls.right)
    const y = within(event.clientY + snap([event.clientY], edges.y), walls.top, walls.bottom)
    return { view, x: (x - screen.e) / screen.a, y: (y - screen.f) / screen.d }
  },
  // keep lets no press that measures choose what lies under it.
  keep(event) {
    if (!this.on()) return
    event.preventDefault()
    event.stopPropagation()
  },
  press(event) {
    if (!this.on()) return
    event.preventDefault()
    event.stopPropagation()
    const at = this.at(event)
    if (this.from) {
      this.show(at)
      this.from = null
    } else if (at) {
      this.from = at
      this.show(at)
    }
  },
  move(event) {
    if (this.from) this.show(this.at(event))
  },
  drop() {
    this.from = null
    this.$root.querySelector('[data-rule]').setAttribute('hidden', '')
  },
  show(to) {
    const line = this.$root.querySelector('[data-rule]')
    const scale = Number(to.view.dataset.scale)
    const [dx, dy] = [to.x - this.from.x, to.y - this.from.y].map((d) => Math.abs(d) / scale)
    line.removeAttribute('hidden')
    line.querySelector('path').setAttribute('d', `M${this.from.x} ${this.from.y}L${to.x} ${to.y}`)
    const text = line.querySelector('text')
    text.setAttribute('x', Math.min(Math.max((this.from.x + to.x) / 2, 182), this.$root.viewBox.baseVal.width - 182))
    text.setAttribute('y', (this.from.y + to.y) / 2 - 8)
    text.textContent = `${lengthWords(Math.hypot(dx, dy))} (${lengthWords(dx)} across, ${lengthWords(dy)} up or down)`
  },
}))

// lengthWords writes millimetres as the page writes lengths.
const lengthWords = (mm) => {
  const inches = document.querySelector('[hx-post="/units"]')?.textContent === 'in'
  return inches ? (mm / 25.4).toFixed(2) + ' in' : mm.toFixed(1) + ' mm'
}

// readPicture shows a picture that was chosen; it stays in the browser.
const readPicture = (event, img, shown) => {
  const [file] = event.target.files
  if (!file) return
  const reader = new FileReader()
  reader.onload = () => {
    img.src = reader.result
    shown()
  }
  reader.readAsDataURL(file)
}

// beside shows a picture beside the fields that are typed from it: a label, a result screen.
Alpine.data('beside', () => ({
  shown: false,
  quarters: 0,
  way: 'turned-0',
  choose(event) {
    readPicture(event, this.$root.querySelector('img'), () => (this.shown = true))
  },
  turn() {
    this.quarters = (this.quarters + 1) % 4
    this.way = 'turned-' + this.quarters
  },
}))

// offPicture measures in a picture that stays in the browser: two presses at the ends of a known
// length, two at those of a wanted one. The points are kept in the picture's own pixels; what they
// come to is worked out by Kolvan.
const pressedWithin = 1.5 // of a screen's pixels, one sigma
Alpine.data('offPicture', () => ({
  shown: false,
  asks: false,
  says: 'Choose a picture.',
  points: [],
  cross: null,
  by: (name) => document.querySelector('.off-picture ' + name),
  choose(event) {
    readPicture(event, this.by('img'), () => {
      this.shown = true
      this.anew()
    })
  },
  fit() {
    const img = this.by('img')
    this.by('svg').setAttribute('viewBox', `0 0 ${img.naturalWidth} ${img.naturalHeight}`)
    this.cross = [img.naturalWidth / 2, img.naturalHeight / 2]
    this.$nextTick(() => this.draw()) // it has a width once it is shown
  },
  zoom(event) {
    this.by('.off-stage').style.width = 100 * event.target.value + '%'
    this.draw()
  },
  scale() {
    const img = this.by('img')
    return img.naturalWidth / img.getBoundingClientRect().width
  },
  press(event) {
    const b = this.by('img').getBoundingClientRect()
    this.put([(event.clientX - b.left) * this.scale(), (event.clientY - b.top) * this.scale()])
  },
  step(event) {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
    if (event.key === 'Enter') this.put(this.cross)
    if (!way && event.key !== 'Enter') return
    event.preventDefault()
    event.stopPropagation()
    if (way) this.cross = this.cross.map((v, i) => v + way[i] * (event.shiftKey ? 20 : 2) * this.scale())
    this.draw()
  },
  put(point) {
    if (this.points.length === 4) this.points = this.points.slice(0, 2)
    this.points.push(point)
    this.cross = point
    this.asks = this.points.length >= 2
    this.again()
  },
  anew() {
    this.points = []
    this.asks = false
    this.again()
  },
  async again() {
    this.draw()
    const known = this.by('#off-known').value.trim()
    const next = ['Press one end of a length you know.', 'Press its other end.', 'Press one end of what you want to know.', 'Press its other end.']
    if (this.points.length >= 2 && !known) {
      this.says = 'Say how long that is.'
      return
    }
    if (this.points.length < 4) {
      this.says = next[this.points.length]
      return
    }
    const asked = new URLSearchParams({ known, pressed: pressedWithin * this.scale() })
    this.points.flat().forEach((v, i) => asked.set('ax ay bx by cx cy dx dy'.split(' ')[i], v))
    const answer = await fetch('/off-picture/measure?' + asked, { headers: { 'HX-Request': 'true' } })
    this.says = await answer.text()
  },
  draw() {
    const line = (a, b) => (a && b ? `M${a}L${b}` : a ? `M${a}h0` : '')
    const [a, b, c, d] = this.points
    this.by('.off-known').setAttribute('d', line(a, b))
    this.by('.off-wanted').setAttribute('d', line(c, d))
    const s = this.cross ? 12 * this.scale() : 0
    this.by('.off-cross').setAttribute('d', this.cross ? `M${this.cross[0] - s} ${this.cross[1]}h${2 * s}M${this.cross[0]} ${this.cross[1] - s}v${2 * s}` : '')
  },
}))

// drag moves the card in one view of its chamber: with the pointer, or with the
// arrow keys by a millimetre, ten with shift.
Alpine.data('drag', () => ({
  from: null,
  by: null,
  scale() {
    const svg = this.$el.ownerSVGElement
    return svg.getScreenCTM().a * Number(this.$el.dataset.scale)
  },
  start(event) {
    this.from = { x: event.clientX, y: event.clientY }
    this.$el.setPointerCapture(event.pointerId)
  },
  move(event) {
    if (!this.from) return
    const box = this.box ?? (this.box = this.$el.querySelector('rect').getBoundingClientRect())
    const edges = this.edges ?? (this.edges = edgesOf(this.$el.closest('[data-view]'), this.$el))
    const by = { x: event.clientX - this.from.x, y: event.clientY - this.from.y }
    this.by = { x: by.x + snap([box.left + by.x, box.right + by.x], edges.x), y: by.y + snap([box.top + by.y, box.bottom + by.y], edges.y) }
    const screen = this.$el.ownerSVGElement.getScreenCTM().a
    this.$el.setAttribute('transform', `translate(${this.by.x / screen} ${this.by.y / screen})`)
  },
  end() {
    const by = this.by
    this.from = this.by = this.box = this.edges = null
    if (!by || Math.hypot(by.x, by.y) < 4) {
      this.$el.removeAttribute('transform')
      return
    }
    this.place(Math.round(by.x / this.scale()), Math.round(by.y / this.scale()))
  },
  key(event) {
    const steps = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
    const step = steps[event.key]
    if (!step) return
    event.preventDefault()
    event.stopPropagation()
    const size = event.shiftKey ? 10 : 1
    this.place(step[0] * size, step[1] * size)
  },
  place(across, down) {
    const { across: a, down: d, up, post } = this.$el.dataset
    const values = { [a]: across, [d]: up === 'true' ? -down : down }
    // Sent from #state, so that it waits its turn and then takes the newest revision.
    htmx.ajax('POST', post, { source: document.getElementById('state'), target: '#rig', swap: 'morph:outerHTML', values }).finally(() => this.$el.removeAttribute('transform'))
  },
}))

// scrubber moves along the timeline of the power-on: by hand, played, or by the clock.
Alpine.data('scrubber', () => ({
  timer: null,
  destroy() {
    clearInterval(this.timer)
  },
  // x is where a moment stands in the drawing, as the server draws it.
  x(ms) {
    const span = Number(this.$root.dataset.span)
    return 176 + (872 - 30 - 176) * (Math.log1p(ms / 250) / Math.log1p(span / 250))
  },
  show(ms) {
    const x = this.x(ms)
    const line = this.$root.querySelector('[data-scrub]')
    line.setAttribute('d', line.getAttribute('d').replace(/^M[\d.]+/, 'M' + x))
    this.$root.querySelector('[data-moment]').textContent = ms < 60000 ? (ms / 1000).toFixed(1) + ' s' : (ms / 60000).toFixed(1) + ' min'
    for (const row of this.$root.querySelectorAll('[data-ms]')) row.classList.toggle('past', Number(row.dataset.ms) <= ms)
  },
  // at is the moment of a share of the axis.
  at(share) {
    return 250 * Math.expm1(share * Math.log1p(Number(this.$root.dataset.span) / 250))
  },
  scrub(event) {
    clearInterval(this.timer)
    this.show(this.at(Number(event.target.value) / 1000))
  },
  play() {
    clearInterval(this.timer)
    const range = this.$root.querySelector('input[type=range]')
    range.value = 0
    this.timer = setInterval(() => {
      range.value = Number(range.value) + 4
      this.show(this.at(Number(range.value) / 1000))
      if (Number(range.value) >= 1000) clearInterval(this.timer)
    }, 40)
  },
  // clock counts from now, with the real time.
  clock() {
    clearInterval(this.timer)
    const began = Date.now()
    this.timer = setInterval(() => this.show(Date.now() - began), 200)
  },
}))

// hands is the step by itself, for full hands: letters for a metre away, and large areas; a small
// remote or a pedal sends the keys.
const handsFull = () => document.documentElement.classList.contains('hands-full')
Alpine.data('hands', () => ({
  init() {
    this.shows()
  },
  shows() {
    this.$el.setAttribute('aria-pressed', handsFull())
    this.$el.textContent = handsFull() ? 'hands free' : 'hands full'
  },
  turn() {
    document.documentElement.classList.toggle('hands-full')
    this.shows()
    if (handsFull()) navigator.wakeLock?.request('screen').catch(() => {})
  },
  press(event) {
    if (!handsFull() || typing(event.target)) return
    const to = { PageDown: '.next', ArrowRight: '.next', PageUp: '.back', ArrowLeft: '.back', Enter: '[name=done]', ' ': '[name=done]', b: '[name=done]', '.': '[name=done]', Escape: '.hands' }[event.key]
    if (!to) return
    event.preventDefault()
    event.stopImmediatePropagation()
    // A caution that was not on the screen yet comes before what it warns of is done.
    const page = document.documentElement
    if (to !== '.back' && to !== '.hands' && page.scrollHeight - page.scrollTop - page.clientHeight > 8) {
      scrollBy(0, page.clientHeight / 2)
      return
    }
    press('.step-acts ' + to)
  },
}))
// Whoever leaves the step has a hand free.
document.addEventListener('htmx:afterSettle', () => {
  if (!document.querySelector('.hands')) document.documentElement.classList.remove('hands-full')
})

// keypad is large figures in place of a telephone's own keys, for a value in its unit; one who has
// a keyboard types.
let filled = null
const padShows = () => (document.querySelector('#keypad output').textContent = filled.value + ' ' + filled.dataset.unit)
Alpine.data('keypad', () => ({
  open() {
    if (!matchMedia('(pointer: coarse)').matches) return
    filled = this.$el
    filled.inputMode = 'none'
    const pad = document.getElementById('keypad')
    padShows()
    const dialog = filled.closest('dialog[open]') ?? document.body // what lies over the page has it inside
    dialog.append(pad)
    pad.hidden = false
    filled.addEventListener('blur', () => (pad.hidden = true), { once: true })
  },
}))
Alpine.data('pad', () => ({
  press(event) {
    const key = event.target.closest('[data-key]')?.dataset.key
    if (!key || !filled) return
    if (key === 'done') {
      filled.dispatchEvent(new Event('change', { bubbles: true }))
      filled.blur()
      return
    }
    const { selectionStart: from, selectionEnd: to } = filled
    if (key === 'back') filled.setRangeText('', from === to ? Math.max(0, from - 1) : from, to, 'end')
    else filled.setRangeText(key, from, to, 'end')
    filled.dispatchEvent(new Event('input', { bubbles: true }))
    padShows()
  },
}))

// watch takes the minutes of a step; it goes on while one looks elsewhere.
Alpine.data('watch', () => ({
  init() {
    this.key = 'kolvan-watch ' + location.pathname + ' ' + this.$el.dataset.step
    this.shows()
    this.every = setInterval(() => this.shows(), 1000)
  },
  destroy() {
    clearInterval(this.every)
  },
  since() {
    const began = Number(sessionStorage.getItem(this.key))
    return began ? (Date.now() - began) / 60000 : null
  },
  shows() {
    const minutes = this.since()
    this.$el.textContent = minutes === null ? 'start the watch' : `stop at ${Math.floor(minutes)}:${String(Math.floor(minutes * 60) % 60).padStart(2, '0')}`
  },
  turn() {
    const minutes = this.since()
    if (minutes === null) sessionStorage.setItem(this.key, Date.now())
    else {
      sessionStorage.removeItem(this.key)
      this.$el.form.elements.minutes.value = (Math.ceil(minutes * 10) / 10).toString()
    }
    this.shows()
  },
}))

// smaller makes a picture no larger than it is looked at, before it is sent.
const longestSide = 2048
Alpine.data('smaller', () => ({
  async make() {
    const input = this.$el
    const [file] = input.files
    if (!file) return
    const picture = await createImageBitmap(file).catch(() => null)
    const scale = longestSide / Math.max(picture?.width ?? 0, picture?.height ?? 0)
    if (!picture || scale >= 1) return // as it is, or none that this browser reads: the server says so
    const canvas = document.createElement('canvas')
    canvas.width = Math.round(picture.width * scale)
    canvas.height = Math.round(picture.height * scale)
    canvas.getContext('2d').drawImage(picture, 0, 0, canvas.width, canvas.height)
    const blob = await new Promise((made) => canvas.toBlob(made, 'image/jpeg', 0.9))
    if (!blob || input.files[0] !== file) return
    const list = new DataTransfer()
    list.items.add(new File([blob], file.name.replace(/\.\w+$/, '') + '.jpg', { type: 'image/jpeg' }))
    input.files = list.files
  },
}))

// awake keeps the screen of a telephone awake, where the browser can.
Alpine.data('awake', () => ({
  init() {
    this.$el.hidden = !('wakeLock' in navigator)
  },
  async keep() {
    await navigator.wakeLock.request('screen')
    this.$el.disabled = true
    this.$el.textContent = 'the screen stays awake'
  },
}))

Alpine.data('printer', () => ({
  print() {
    window.print()
  },
}))

// again fetches the token that a form shown anew needs.
Alpine.data('again', () => ({
  async init() {
    const token = await fetch('/token')
    this.$root.querySelector('[name=_csrf]').value = await token.text()
  },
}))

const say = (text) => {
  const line = document.getElementById('notice')
  line.textContent = text
  line.hidden = text === ''
}

// Edits that were not kept for a reason that passes wait here and are sent again
// in order: at once, then after growing pauses. A restart has forgotten the page's
// token, so a new one is fetched before each.
const waiting = []
const shortest = 700 // ms
const longest = 30000
let asking = false
let failed = null

const sendFirst = async () => {
  const token = await fetch('/token')
  if (!token.ok) throw new Error()
  document.body.setAttribute('hx-headers', JSON.stringify({ 'X-Csrf-Token': await token.text(), 'Kolvan-Verdict': 'later' }))
  const { verb, path, parameters } = waiting[0]
  const { rev, station, sel, ...values } = Object.fromEntries(Object.entries(parameters))
  failed = null
  await htmx.ajax(verb, path, { source: document.getElementById('state') ?? document.body, target: '#rig, #bin', swap: 'morph:outerHTML', values, headers: { 'X-Again': 'yes' } })
  if (failed) throw failed
  waiting.shift()
}

const sendAgain = async () => {
  if (asking) return
  asking = true
  let pause = shortest
  while (waiting.length > 0) {
    try {
      await sendFirst()
      pause = shortest
    } catch {
      await new Promise((later) => setTimeout(later, pause))
      pause = Math.min(pause * 2, longest)
    }
  }
  asking = false
  say('')
}

// wait keeps an edit, says why it is not kept, and sends it again.
const wait = (config, why) => {
  say('Not kept yet: ' + why + ' What you typed is sent again as soon as that is over; leave this page open.')
  if (config.headers['X-Again']) {
    failed = new Error(why)
    return
  }
  waiting.push(config)
  sendAgain()
}

document.addEventListener('htmx:sendError', (event) => {
  if (event.detail.requestConfig.verb !== 'post') {
    say('Kolvan does not answer.')
    return
  }
  wait(event.detail.requestConfig, 'Kolvan does not answer.')
})
document.addEventListener('htmx:responseError', (event) => {
  const { xhr, requestConfig } = event.detail
  if (requestConfig.verb === 'post' && xhr.status === 403) {
    wait(requestConfig, 'Kolvan does not take this page for its own. It was started again, or the browser keeps no cookies for it.')
    return
  }
  if (requestConfig.verb === 'post' && xhr.status === 503) {
    wait(requestConfig, xhr.responseText)
    return
  }
  say(xhr.responseText)
})

// Where a browser may keep pages (an encrypted connection, or this very machine), the pages of a
// rig that is looked at are kept for while nothing is connected, and what is entered at the bench
// meanwhile waits there, whatever becomes of this page.
const offline = navigator.serviceWorker
let lying = [] // what waits
let asOf = null // when the page that is shown was kept, while nothing is connected
let keepingSoon
let keptLast = ''

const toOffline = (message) => offline?.controller?.postMessage(message)

const keepSoon = () => {
  clearTimeout(keepingSoon)
  keepingSoon = setTimeout(() => {
    const pages = [location.href, '/', ...[...document.querySelectorAll('a.stop, a.dot')].map((link) => link.getAttribute('href'))]
    const now = (document.querySelector('#state [name=rev]')?.value ?? '') + pages.length
    if (pages.length === 2 || now === keptLast || document.hidden || asOf) return
    keptLast = now
    toOffline({ keep: pages })
  }, 3000)
}

const element = (name, text, more = {}) => Object.assign(document.createElement(name), { textContent: text }, more)

const showLying = () => {
  const bar = document.getElementById('waiting')
  const still = lying.filter((entry) => !entry.refused)
  const said = []
  if (asOf) said.push(element('p', 'Kolvan does not answer. This page is as it was at ' + new Date(asOf).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false }) + '.'))
  if (still.length) said.push(element('p', (still.length === 1 ? 'One entry waits' : still.length + ' entries wait') + ' on this device and will be sent: ' + still.map((entry) => entry.says).join('; ').replace(/([^…])$/, '$1.')))
  for (const entry of lying.filter((entry) => entry.refused)) {
    const line = element('p', 'Not sent: ' + entry.says + '. ' + entry.refused + ' ')
    line.append(element('button', 'try again', { className: 'button', onclick: () => toOffline({ send: 'again' }) }), ' ', element('button', 'let it go', { className: 'button', onclick: () => toOffline({ letGo: entry.id }) }))
    said.push(line)
  }
  bar.replaceChildren(...said)
  bar.hidden = said.length === 0
}

if (offline) {
  addEventListener('load', () => setTimeout(() => offline.register('/offline.js').catch(() => {}), 2000))
  offline.addEventListener('controllerchange', keepSoon)
  offline.addEventListener('message', ({ data }) => {
    const more = data.waiting.length > lying.length
    lying = data.waiting
    asOf = data.asOf
    showLying()
    if (!more) return
    for (const dialog of document.querySelectorAll('dialog[open]')) dialog.close()
    if (lying.at(-1).url.endsWith('/done')) press('.step-acts a.next')
  })
  document.addEventListener('htmx:afterSettle', keepSoon)
  document.addEventListener('htmx:configRequest', ({ detail }) => {
    const says = detail.elt.closest('[data-says]')?.dataset.says
    if (says) detail.headers['Kolvan-Says'] = encodeURIComponent(says)
  })
  const send = () => toOffline({ send: 'new' })
  addEventListener('online', send)
  addEventListener('load', () => (send(), keepSoon()))
  setInterval(() => lying.some((entry) => !entry.refused) && send(), 5000)
  document.addEventListener('htmx:sseOpen', () => {
    asOf = null
    showLying()
    toOffline({ send: 'new', connected: true })
  })
}

// What was refused stays in its field, marked, while other fields are changed,
// until it is typed anew.
const refused = new Map()
const keepRefused = ({ xhr, requestConfig }) => {
  const path = requestConfig?.parameters?.path
  if (xhr.status === 422) {
    for (const el of document.querySelectorAll('[aria-invalid=true]')) refused.set(el.id, { path, value: el.value, says: el.closest('.field')?.querySelector('.fault')?.textContent })
    return
  }
  for (const [id, was] of refused) {
    const el = document.getElementById(id)
    if (was.path === path || !el) {
      refused.delete(id)
      continue
    }
    el.value = was.value
    el.setAttribute('aria-invalid', 'true')
    const field = el.closest('.field')
    field.classList.add('bad')
    const fault = document.createElement('p')
    fault.className = 'fault'
    fault.textContent = was.says
    el.after(fault)
  }
}

document.addEventListener('htmx:afterSwap', (event) => {
  if (waiting.length < 2) say('')
  keepRefused(event.detail)
  if (event.detail.requestConfig?.verb === 'post') for (const dialog of document.querySelectorAll('dialog[open]')) dialog.close()
})

// A table that takes its time to be sent shows how far it is.
document.addEventListener('htmx:xhr:progress', (event) => {
  const bar = event.target.closest?.('form')?.querySelector('.sending')
  if (!bar || !event.detail.total) return
  bar.hidden = event.detail.loaded >= event.detail.total
  bar.value = (100 * event.detail.loaded) / event.detail.total
})

// What a finding is about and its place in the drawing point at each other, under
// the pointer and under the focus.
const placeOf = (el) => {
  const at = el.closest('[data-at]')?.dataset.at
  if (at) return at
  const link = el.closest('.mat a[href], .slots a[href]')
  return link ? new URL(link.getAttribute('href'), location).searchParams.get('sel') : null
}
const within = (inner, outer) => inner === outer || inner?.startsWith(outer + '/')
const point = (event) => {
  document.querySelectorAll('.pointed').forEach((el) => el.classList.remove('pointed'))
  const at = event.target instanceof Element && event.target.closest('#rig') ? placeOf(event.target) : null
  if (!at) return
  for (const el of document.querySelectorAll('[data-at], .mat a[href]')) {
    const own = el.dataset.at ?? placeOf(el)
    if (el !== event.target.closest('[data-at], a') && own && (within(own, at) || within(at, own))) el.classList.add('pointed')
  }
}
document.addEventListener('mouseover', point)
document.addEventListener('focusin', point)

// After a remedy the focus stands on the answer, which says what is so now; after another act
// where the work goes on, where the act took away what had it.
let acted = null
document.addEventListener('htmx:afterSettle', (event) => {
  const { verb, elt } = event.detail.requestConfig ?? {}
  if (verb === 'post') acted = elt?.matches?.('.fix') ? 'remedy' : elt?.closest?.('.question') ? 'question' : 'act'
  if (!acted) return
  if (document.querySelector('.verdict-coming') && acted !== 'remedy') return
  const by = acted
  acted = null
  if (by !== 'remedy' && document.activeElement && document.activeElement !== document.body) return
  const seen = (el) => el.getClientRects().length > 0
  const where = ['.start [data-first]', ...(by === 'question' ? ['.question input, .question select'] : []), '#answer']
  const on = where.map((selector) => [...document.querySelectorAll(selector)].find(seen)).find(Boolean)
  on?.focus({ preventScroll: true })
  on?.closest('.start, .answer, .question')?.scrollIntoView({ block: 'nearest' })
})

// Back returns to the place where one was in a long page: it is kept when one goes on, since
// the address is another's by the time the page is made anew.
const placeKept = () => 'at ' + location.pathname + location.search
const keepPlace = () => sessionStorage.getItem('went-back') || sessionStorage.setItem(placeKept(), scrollY)
history.scrollRestoration = 'manual'
document.addEventListener('htmx:beforeRequest', keepPlace)
addEventListener('pagehide', keepPlace)
addEventListener('popstate', () => sessionStorage.setItem('went-back', 'yes'))
addEventListener('load', () => {
  const at = Number(sessionStorage.getItem(placeKept()))
  const back = sessionStorage.getItem('went-back') || performance.getEntriesByType('navigation')[0]?.type !== 'navigate'
  sessionStorage.removeItem('went-back')
  if (back && at) scrollTo(0, at)
})

// What is only looked up can be stopped while it takes long: the page stays as it is. An edit is
// not stopped, since it may be kept already.
let stoppable = null
const mayStop = (on) => {
  const stop = document.getElementById('stop')
  if (stop) stop.hidden = !on
}
document.addEventListener('htmx:beforeRequest', (event) => {
  if (event.detail.requestConfig.verb !== 'get') return
  clearTimeout(stoppable?.timer)
  stoppable = { xhr: event.detail.xhr, timer: setTimeout(mayStop, 150, true) }
})
document.addEventListener('htmx:afterRequest', () => {
  clearTimeout(stoppable?.timer)
  stoppable = null
  mayStop(false)
})
document.addEventListener('click', (event) => {
  if (event.target.id === 'stop') stoppable?.xhr.abort()
})

// The station one stands at is in sight, where the line of stations scrolls.
const showHere = () => {
  const line = document.querySelector('.stations')
  const here = line?.querySelector('.here')
  if (here && line.scrollWidth > line.clientWidth) line.scrollLeft = here.offsetLeft - line.clientWidth / 3
}
document.addEventListener('htmx:afterSettle', showHere)
// A station that comes in place of another has a title of its own.
document.addEventListener('htmx:afterSettle', () => {
  const named = document.getElementById('rig')?.dataset.title
  if (named) document.title = named + ' · Kolvan'
})
showHere()
if (document.activeElement === document.body) document.querySelector('.start [data-first]')?.focus({ preventScroll: true })

// trace draws what a wall meter showed, over bands of what the plan expects, and
// goes on while it is recorded.
Alpine.data('trace', () => ({
  init() {
    const plot = JSON.parse(this.$el.dataset.plot)
    const look = getComputedStyle(document.documentElement)
    const colour = (name) => look.getPropertyValue(name).trim()
    const columns = [plot.samples.map((s) => s[0]), plot.samples.map((s) => (s[1] < 0 ? null : s[1]))]
    const count = (ticks) => {
      const [by, unit] = ticks.at(-1) > 7200 ? [3600, 'h'] : ticks.at(-1) > 300 ? [60, 'min'] : [1, 's']
      return ticks.map((t) => +(t / by).toFixed(2) + ' ' + unit)
    }
    const band = (u, [low, high], fill) => {
      if (!high) return
      const top = u.valToPos(high, 'y', true)
      u.ctx.fillStyle = fill
      u.ctx.fillRect(u.bbox.left, top, u.bbox.width, Math.max(3, u.valToPos(low, 'y', true) - top))
    }
    const axis = { stroke: colour('--on-mat-soft'), grid: { stroke: colour('--mat-line'), width: 1 }, ticks: { stroke: colour('--mat-line') }, font: '13px "DM Mono"' }
    const chart = new uPlot({
      width: this.$el.clientWidth, height: 300, legend: { show: false }, cursor: { y: false },
      scales: { x: { time: false }, y: { range: (u, low, high) => [0, 1.1 * Math.max(high ?? 0, plot.loaded[1], plot.idle[1], 10)] } },
      axes: [{ ...axis, values: (u, ticks) => count(ticks), incrs: [1, 2, 5, 10, 30, 60, 120, 300, 600, 1800, 3600, 7200, 14400, 43200, 86400] }, { ...axis, size: 70, values: (u, ticks) => ticks.map((t) => t + ' W') }],
      series: [{}, { stroke: colour('--on-mat'), width: 1.6, points: { show: columns[0].length < 2 } }],
      hooks: { drawAxes: [(u) => { u.ctx.save(); band(u, plot.loaded, 'rgba(227,154,97,0.45)'); band(u, plot.idle, 'rgba(195,210,196,0.35)'); u.ctx.restore() }] },
    }, columns, this.$el)
    this.resize = new ResizeObserver(() => chart.setSize({ width: this.$el.clientWidth, height: 300 }))
    this.resize.observe(this.$el)
    if (plot.running) this.follow(plot, columns, chart)
  },
  follow(plot, columns, chart) {
    const says = document.querySelector('[data-latest]')
    this.source = new EventSource(plot.live + '?from=' + plot.next)
    this.source.onmessage = (message) => {
      const event = JSON.parse(message.data)
      for (const [at, watts] of event.samples) columns.forEach((column, i) => column.push(i ? watts : at))
      chart.setData(columns)
      says.textContent = `${columns[1].at(-1)?.toFixed(1) ?? ''} W now, ${event.lately.toFixed(1)} W in the last ten seconds`
      document.querySelectorAll('.figures.measured dd').forEach((figure, i) => (figure.textContent = event.figures[i] ?? figure.textContent))
      const reading = document.getElementById('meter-reading')
      if (reading && reading !== document.activeElement) reading.value = event.lately.toFixed(1)
      if (!event.running) {
        this.source.close()
        if (event.ended) htmx.ajax('GET', location.pathname + location.search, { target: '#meter', swap: 'outerHTML' })
      }
    }
  },
  destroy() {
    this.source?.close()
    this.resize?.disconnect()
  },
}))

Alpine.start()

// What is measured on a page as it stands; each answers with the places that are wrong, in words.
window.measures = (() => {
  const shown = one => {
    const box = one.getBoundingClientRect()
    const style = getComputedStyle(one)
    return box.width > 0 && box.height > 0 && style.visibility === 'visible' && style.pointerEvents !== 'none' &&
      !one.closest('[inert], [aria-hidden="true"], .sr-only, .v-overlay:not(.v-overlay--active)') && one.checkVisibility({ opacityProperty: true })
  }
  const PRESSED = 'button, a[href], [role="button"], [role="option"], [role="slider"]:not(input), [role="checkbox"], summary, ' +
    'select, input:not([type="hidden"]), textarea, .v-field, [tabindex]:not([tabindex="-1"], .scroll-y, [role="region"], [role="menu"], [data-scrolls])'
  const name = one => {
    const words = (one.getAttribute('aria-label') || one.innerText || one.textContent || one.getAttribute('name') || '').trim()
    const at = one.className?.baseVal ?? one.className ?? ''
    return `${one.tagName.toLowerCase()}.${String(at).split(' ').filter(Boolean).slice(0, 3).join('.')} “${words.slice(0, 40).replaceAll('\n', ' ')}”`
  }
  // a dialog lies over everything else: only what it holds is pressed
  const top = () => [...document.querySelectorAll('.v-overlay--active')].at(-1) ?? document.body
  const pressed = () => {
    const host = top()
    return [...host.querySelectorAll(PRESSED)].filter(one => shown(one) && !(host === document.body && one.closest('.v-overlay')))
  }
  /** How much of the screen answers to one control: itself, its field, its label. */
  const reach = one => {
    const host = one.closest('.v-field, .v-selection-control, .v-slider') ?? one
    const boxes = [one, host, ...(one.labels ?? [])].map(each => each.getBoundingClientRect())
    return { width: Math.max(...boxes.map(box => box.width)), height: Math.max(...boxes.map(box => box.height)) }
  }
  function small (least) {
    return pressed().filter(one => !one.matches('.v-field, .v-field *') || one.matches('.v-field')).flatMap(one => {
      const { width, height } = reach(one)
      return height < least - 0.5 || (least > 24 && width < least - 0.5) ? [`${name(one)} ${width.toFixed(0)}×${height.toFixed(0)}`] : []
    })
  }
  const tooltips = () => [...document.querySelectorAll('[title], svg title')].filter(one => one.matches('title') ? one.parentElement?.closest('svg') : !one.matches('iframe'))
    .map(one => name(one.matches('title') ? one.parentElement : one))
  const colour = text => {
    const [r, g, b, a = '1'] = text.match(/[\d.]+/g) ?? []
    return r === undefined ? null : [Number(r), Number(g), Number(b), Number(a)]
  }
  const over = (front, back) => front.slice(0, 3).map((value, n) => value * front[3] + back[n] * (1 - front[3]))
  function ground (one) {
    const layers = []
    for (let at = one; at; at = at.parentElement) {
      const found = colour(getComputedStyle(at).backgroundColor)
      if (found && found[3] > 0) { layers.push(found); if (found[3] === 1) break }
    }
    return layers.reverse().reduce((back, layer) => over(layer, back), [255, 255, 255])
  }
  const light = rgb => {
    const [r, g, b] = rgb.map(value => value / 255).map(value => value <= 0.03928 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b
  }
  const contrast = (one, other) => {
    const [high, low] = [light(one), light(other)].sort((a, b) => b - a)
    return (high + 0.05) / (low + 0.05)
  }
  /** Edges that alone say that something can be written into or pressed. */
  function edges (least) {
    const found = []
    for (const one of pressed()) {
      const field = one.matches('.v-field') ? one.querySelector('.v-field__outline__start, .v-field__outline__end') : null
      const edge = field ?? one
      if (one.closest('.v-field') && !field) continue
      const style = getComputedStyle(edge)
      const width = Math.max(parseFloat(style.borderTopWidth), parseFloat(style.borderLeftWidth), parseFloat(style.borderBottomWidth))
      if (!field && (width === 0 || parseFloat(style.borderTopWidth) === 0 || parseFloat(style.borderLeftWidth) === 0 || edge instanceof SVGElement || edge.matches('[disabled]'))) continue
      const stroke = colour(style.borderTopWidth !== '0px' ? style.borderTopColor : style.borderBottomColor)
      if (!stroke || stroke[3] === 0) continue
      const back = ground(edge.parentElement)
      stroke[3] *= parseFloat(style.opacity)
      const filled = ground(edge)
      const ratio = Math.max(contrast(over(stroke, back), back), contrast(filled, back))
      if (ratio < least) found.push(`${name(one)} ${ratio.toFixed(2)}`)
    }
    return found
  }
  /** What is wider than the window, or cut off where nobody can scroll to it. */
  function cut () {
    const wide = document.documentElement.clientWidth
    // what is scrolled down is never scrolled across as well, tables apart
    const across = at => ['auto', 'scroll'].includes(getComputedStyle(at).overflowX) && at.scrollWidth > at.clientWidth && (at.scrollHeight <= at.clientHeight || at.querySelector('table'))
    const scrolls = one => { for (let at = one.parentElement; at; at = at.parentElement) if (across(at)) return true; return false }
    return pressed().filter(one => {
      const box = one.getBoundingClientRect()
      return (box.right > wide + 1 || box.left < -1) && !scrolls(one)
    }).map(one => `${name(one)} ${one.getBoundingClientRect().left.toFixed(0)} to ${one.getBoundingClientRect().right.toFixed(0)}`)
  }
  /** Words over words inside one drawing. */
  function collisions () {
    const found = []
    for (const svg of top().querySelectorAll('svg.ladder, .ladder svg')) {
      const words = [...svg.querySelectorAll('text')].map(one => ({ one, box: one.getBoundingClientRect() })).filter(({ box }) => box.width > 0)
      words.forEach(({ one, box }, n) => words.slice(n + 1).forEach(({ one: other, box: near }) => {
        const across = Math.min(box.right, near.right) - Math.max(box.left, near.left)
        const down = Math.min(box.bottom, near.bottom) - Math.max(box.top, near.top)
        if (across > 2 && down > 4) found.push(`“${one.textContent.trim()}” over “${other.textContent.trim()}”`)
      }))
    }
    return found
  }
  /** Controls that look the same whether the keys are on them or not. A key has to have been pressed last. */
  async function unfocused () {
    const own = ['outlineStyle', 'outlineWidth', 'outlineColor', 'boxShadow', 'backgroundColor', 'borderTopColor', 'borderTopWidth', 'stroke', 'strokeWidth', 'opacity', 'fill', 'textDecorationLine']
    const look = one => {
      const host = one.closest('.v-field, .v-selection-control, .v-slider') ?? one
      const parts = [one, host, ...host.querySelectorAll('*')].slice(0, 40)
      return parts.map(part => { const style = getComputedStyle(part); return own.map(key => style[key]).join() }).join('|')
    }
    const drawn = () => new Promise(done => setTimeout(done)) // what the page changes itself is drawn a moment later
    const before = document.activeElement
    const found = []
    for (const one of pressed().filter(each => each.tabIndex >= 0 && !each.disabled && each.focus)) {
      document.activeElement?.blur()
      await drawn()
      const plain = look(one)
      one.focus({ preventScroll: true })
      await drawn()
      if (document.activeElement === one && look(one) === plain) found.push(name(one))
    }
    before?.focus?.({ preventScroll: true })
    return found
  }
  return { small, tooltips, edges, cut, collisions, unfocused }
})()

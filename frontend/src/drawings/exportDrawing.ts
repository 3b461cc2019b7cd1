import { save } from '@/shell/saveFile'

const KEPT = ['fill', 'fill-opacity', 'stroke', 'stroke-width', 'stroke-dasharray', 'stroke-linecap', 'opacity', 'font-size', 'font-family', 'font-weight', 'text-anchor', 'paint-order', 'text-decoration']
const PNG_SCALE = 2

/** The drawing as a standing SVG document: colours and type are written into every element. */
export function standaloneSvg (svg: SVGSVGElement, background: string): string {
  const copy = svg.cloneNode(true) as SVGSVGElement
  const box = svg.getBoundingClientRect()
  const originals = [svg, ...svg.querySelectorAll<SVGElement>('*')]
  const copies = [copy, ...copy.querySelectorAll<SVGElement>('*')]
  originals.forEach((element, n) => {
    const style = getComputedStyle(element)
    copies[n]?.setAttribute('style', KEPT.map(name => `${name}:${style.getPropertyValue(name)}`).join(';'))
    copies[n]?.removeAttribute('class')
  })
  for (const [n, element] of originals.entries()) if (element.classList.contains('hover-word')) copies[n]?.remove()
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  copy.setAttribute('width', String(Math.round(box.width)))
  copy.setAttribute('height', String(Math.round(box.height)))
  copy.style.background = background
  return new XMLSerializer().serializeToString(copy)
}

/** Save a drawing as a file, as vectors or as pixels at twice its size. */
export async function saveDrawing (svg: SVGSVGElement, name: string, kind: 'svg' | 'png') {
  const background = getComputedStyle(document.body).backgroundColor
  const text = standaloneSvg(svg, background)
  const vectors = new Blob([text], { type: 'image/svg+xml' })
  save(kind === 'svg' ? vectors : await pixels(vectors, svg.getBoundingClientRect(), background), `${name}.${kind}`)
}

async function pixels (vectors: Blob, box: DOMRect, background: string): Promise<Blob> {
  const url = URL.createObjectURL(vectors)
  try {
    const image = new Image()
    image.src = url
    await image.decode()
    const canvas = document.createElement('canvas')
    canvas.width = Math.round(box.width * PNG_SCALE)
    canvas.height = Math.round(box.height * PNG_SCALE)
    const context = canvas.getContext('2d')
    if (!context) throw new Error('This browser cannot draw pixels.')
    context.fillStyle = background
    context.fillRect(0, 0, canvas.width, canvas.height)
    context.drawImage(image, 0, 0, canvas.width, canvas.height)
    return await new Promise((resolve, reject) => canvas.toBlob(blob => blob ? resolve(blob) : reject(new Error('No picture came out.')), 'image/png'))
  } finally {
    URL.revokeObjectURL(url)
  }
}

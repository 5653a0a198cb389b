// Bundles scripts, style and fonts into ../static, which the program embeds, and
// the accessibility checker into ../testdata for the browser tests.
import { execFileSync } from 'node:child_process'
import { copyFileSync, mkdirSync, rmSync } from 'node:fs'
import { build } from 'esbuild'

const out = '../static'
rmSync(out, { recursive: true, force: true })
mkdirSync(out + '/fonts', { recursive: true })

for (const script of ['app.js', 'offline.js']) {
  await build({ entryPoints: [script], bundle: true, minify: true, format: 'iife', target: 'es2022', legalComments: 'none', outfile: out + '/' + script })
}

execFileSync('node_modules/.bin/tailwindcss', ['--input', 'app.css', '--output', out + '/app.css', '--minify'], { stdio: ['ignore', 'ignore', 'inherit'] })

for (const [family, weights] of [['atkinson-hyperlegible', [400, 700]], ['dm-mono', [400, 500]]]) {
  for (const weight of weights) {
    for (const part of ['latin', 'latin-ext']) {
      const file = `${family}-${part}-${weight}-normal.woff2`
      copyFileSync(`node_modules/@fontsource/${family}/files/${file}`, `${out}/fonts/${file}`)
    }
  }
}
copyFileSync('icon.svg', out + '/icon.svg')

mkdirSync('../testdata', { recursive: true })
copyFileSync('node_modules/axe-core/axe.min.js', '../testdata/axe.min.js')

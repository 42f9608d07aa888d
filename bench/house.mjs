// A freshly started demo and a browser for what is measured in the page.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const { chromium } = createRequire(new URL('../web/package.json', import.meta.url))('@playwright/test')

export async function open() {
  const folder = mkdtempSync(join(tmpdir(), 'dusha-bench-'))
  const server = spawn('.build/dusha', ['demo', '--folder', folder, '--listen', '127.0.0.1:0'])
  const url = await new Promise((resolve, reject) => {
    server.stdout.on('data', (text) => {
      const found = /Dusha is at (\S+)/.exec(String(text))
      if (found) resolve(found[1])
    })
    server.on('exit', () => reject(new Error('the server ended')))
  })
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run'],
  })
  const close = async () => {
    await browser.close()
    server.kill('SIGTERM')
    await new Promise((resolve) => server.once('exit', resolve))
    rmSync(folder, { recursive: true, force: true })
  }
  return { url, browser, close }
}

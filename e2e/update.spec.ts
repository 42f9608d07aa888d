// A newer server, and a page of an older version: what it keeps goes out, before and after it is updated.
import { createServer, request, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { asCrewLead, expect, test } from './house'

/** Stands before a server and changes what it says, as a newer one would. */
class Newer {
  newer = false
  /** entries are not taken at the moment */
  shut = false
  url = ''
  private server: Server | undefined

  async start(of: string): Promise<void> {
    this.server = createServer((from, to) => this.pass(of, from, to))
    await new Promise<void>((resolve) => this.server!.listen(0, '127.0.0.1', resolve))
    this.url = `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`
  }

  private pass(of: string, from: IncomingMessage, to: ServerResponse): void {
    if (this.shut && from.url!.startsWith('/api/')) {
      from.socket.destroy()
      return
    }
    // As it is, unpacked: it is read here.
    const headers = { ...from.headers, 'accept-encoding': 'identity' }
    const asked = request(of + from.url!, { method: from.method, headers }, (answer) => {
      const parts: Buffer[] = []
      answer.on('data', (part: Buffer) => parts.push(part))
      answer.on('end', () => {
        const body = this.newer ? this.change(from.url!, answer, Buffer.concat(parts)) : Buffer.concat(parts)
        to.writeHead(answer.statusCode!, {
          ...answer.headers,
          ...(body.length ? { 'content-length': body.length } : {}),
        })
        to.end(body)
      })
    })
    asked.on('error', () => from.socket.destroy())
    from.pipe(asked)
  }

  private change(path: string, answer: IncomingMessage, body: Buffer): Buffer {
    const text = () => body.toString('utf8')
    if (path === '/sw.js')
      return Buffer.from(text().replace(/url:"index\.html",revision:"/, (found) => `${found}newer-`))
    if (path.startsWith('/index.html')) return Buffer.from(text().replace('<html', '<html data-newer'))
    if (answer.headers['content-type']?.includes('json') && body.length) {
      const more: unknown = { ...(JSON.parse(text()) as object), unheardOf: [{ of: 'a newer server' }] }
      return Buffer.from(JSON.stringify(more))
    }
    return body
  }

  end(): void {
    this.server?.close()
    this.server?.closeAllConnections()
  }
}

test('an older page delivers to a newer server, and an update loses nothing that waits', async ({
  page,
  house,
  complaints,
}) => {
  const newer = new Newer()
  await newer.start(house.url)
  await page.goto(newer.url)
  await page.getByRole('link', { name: /Fennick Lake Hostel/ }).click()
  await expect(page.getByRole('link', { name: /Shower room 1/ })).toBeVisible()
  await expect(page.locator('html[data-offline="ready"]')).toBeAttached()
  const job = /job\/([0-9a-f-]+)/.exec(page.url())![1]!
  const kept = page.getByRole('status').filter({ hasText: 'All sent' })
  const begin = async (name: string, first = false): Promise<void> => {
    await page.getByRole('button', { name: /Measure a wet area/ }).click()
    await page.getByLabel('Name of the wet area').fill(name)
    await page.getByRole('dialog').getByRole('button', { name: 'Measure a wet area' }).click()
    if (first) await asCrewLead(page)
    await expect(page.getByRole('heading', { name })).toBeVisible()
  }
  const arrived = async (name: string): Promise<number> => {
    const answer = (await (await fetch(`${house.url}/api/jobs/${job}/entries`)).json()) as {
      entries: { bytes: string }[]
    }
    return answer.entries.filter(({ bytes }) => bytes.includes(name)).length
  }

  // The server is a newer one; the page goes on as it is.
  newer.newer = true
  await begin('Kept by the older page', true)
  await expect(kept).toBeVisible({ timeout: 20_000 })
  await expect.poll(() => arrived('Kept by the older page')).toBe(1)

  // Something waits, and then the new page is loaded: it is still there, and goes out once.
  newer.shut = true
  await page.goto(`${newer.url}/job/${job}`)
  await begin('Kept before the update')
  await expect(page.getByText('1 kept here')).toBeVisible({ timeout: 20_000 })
  await page.evaluate(async () => (await navigator.serviceWorker.getRegistration())!.update())
  await page.getByRole('button', { name: /A new version is here/ }).click({ timeout: 30_000 })
  await expect(page.locator('html[data-newer]')).toBeAttached({ timeout: 30_000 })
  await expect(page.getByText('1 kept here')).toBeVisible({ timeout: 20_000 })
  expect(await arrived('Kept before the update')).toBe(0)
  newer.shut = false
  await expect(kept).toBeVisible({ timeout: 40_000 })
  expect(await arrived('Kept before the update')).toBe(1)
  newer.end()
  complaints.splice(
    0,
    complaints.length,
    ...complaints.filter((line) => !/ERR_EMPTY_RESPONSE|ERR_CONNECTION/.test(line)),
  )
})

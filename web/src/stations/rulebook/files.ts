import { api, take } from '@/api/client'

/** Takes a rulebook in as a draft, as text in JSON or YAML, and gives the draft's id. */
export async function bringIn(
  name: string,
  format: 'json' | 'yaml',
  text: string,
): Promise<number> {
  const begun = await take(
    api.POST('/api/rulebook/file', {
      params: { query: { name, format } },
      body: text as never,
      bodySerializer: (body: unknown) => body as string,
      headers: { 'Content-Type': `application/${format}` },
    }),
  )
  return begun.id
}

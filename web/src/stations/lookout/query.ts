import { api, take } from '@/api/client'

/** What the first page after sign-in asks for. */
export const lookoutQuery = {
  key: ['lookout'],
  query: () => take(api.GET('/api/lookout')),
}

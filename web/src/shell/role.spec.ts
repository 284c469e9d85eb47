// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { defineComponent } from 'vue'
import { useRouter } from 'vue-router'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { api, refused } from '@/api/client'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import { useRoleKept } from './role'

const asHost = { email: 'a@x.example', role: 'host', unit: null }
const asDeputy = { email: 'a@x.example', role: 'unit-warden', unit: 'pilotage' }
let answer: object

const Page = defineComponent({
  setup() {
    return { told: useRoleKept(), session: useSession(), router: useRouter() }
  },
  template: '<p>{{ told }}</p>',
})

async function page(who: object, path: string) {
  answer = who
  const wrapper = mounted(Page, {})
  await wrapper.vm.session.load()
  await wrapper.vm.router.push(path)
  return wrapper
}
const hear = async () => {
  refused.dispatchEvent(new Event('refused'))
  await flushPromises()
}

describe('a role that changes while a page is open', () => {
  beforeEach(() => {
    vi.spyOn(api, 'GET').mockImplementation((async () => ({
      data: answer,
      response: new Response(null, { status: 200 }),
    })) as never)
  })

  it('is heard of where something was refused, and leaves what is no longer theirs', async () => {
    const wrapper = await page(asDeputy, '/audit/waivers')
    await hear()
    expect(wrapper.text()).toBe('')
    answer = asHost
    await hear()
    expect(wrapper.text()).toBe('From now on you see what a host sees.')
    expect(wrapper.vm.router.currentRoute.value.path).toBe('/')
    wrapper.unmount()
  })

  it('leaves a page that is still theirs, with what was typed there', async () => {
    const wrapper = await page(asHost, '/register/new')
    answer = asDeputy
    await hear()
    expect(wrapper.text()).toBe('From now on you see what a unit’s warden sees.')
    expect(wrapper.vm.router.currentRoute.value.path).toBe('/register/new')
    wrapper.unmount()
  })

  it('is not taken from an answer for nobody, or for somebody else', async () => {
    const wrapper = await page(asDeputy, '/audit')
    answer = { ...asHost, email: null }
    await hear()
    answer = { ...asHost, email: 'b@x.example' }
    await hear()
    expect(wrapper.vm.session.who?.role).toBe('unit-warden')
    expect(wrapper.text()).toBe('')
    wrapper.unmount()
  })
})

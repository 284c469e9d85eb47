import { PiniaColada } from '@pinia/colada'
import { mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import type { Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import type { Catalogue, ControlView } from '@/api/schema'

const base = {
  neutral: false,
  inMatrix: true,
  friction: 1,
  largerIsStricter: false,
  emptyIsAll: false,
  universe: null,
  unit: null,
  zero: null,
  allowed: 'one of these',
}
const words = (id: string, family: string, title: string, values: string[]): ControlView => ({
  ...base,
  id,
  family,
  title,
  effect: `What ${title} does`,
  risk: `What ${title} risks`,
  scale: 'words',
  rungs: values.map((word) => ({ word, label: word === 'named' ? 'by name' : word })),
})

/** A small catalogue of the same shape as the server's. */
export const catalogue: Catalogue = {
  families: [
    { id: 'waiting-room', title: 'Waiting room', shortTitle: 'Waiting' },
    { id: 'chat', title: 'Chat', shortTitle: 'Chat' },
  ],
  controls: [
    words('lobby-bypass', 'waiting-room', 'Lobby bypass', ['anyone', 'members', 'named', 'hosts']),
    {
      ...words('early-entry', 'waiting-room', 'Early entry', ['any-time']),
      scale: 'numbers',
      unit: 'minutes',
      zero: 'after a host',
    },
    words('chat', 'chat', 'Chat', ['always', 'in-session', 'off']),
    { ...words('polls', 'chat', 'Polls', ['off', 'on']), neutral: true },
  ],
  checks: [],
  personas: [
    { id: 'link-finder', phrase: 'finds the link' },
    { id: 'removed', phrase: 'has been removed before' },
  ],
  rights: [
    { id: 'listen', phrase: 'listen in' },
    { id: 'share-screen', phrase: 'share the screen' },
  ],
  steps: [
    { id: 'locked', title: 'locked', control: null },
    { id: 'passcode', title: 'passcode', control: 'passcode' },
    { id: 'waiting-room', title: 'waiting room', control: 'waiting-room' },
  ],
  levels: [
    { id: 'never', phrase: 'never' },
    { id: 'host-lets-in', phrase: 'once a host lets them in' },
    { id: 'unattended', phrase: 'before any host is there' },
  ],
}

export const control = (id: string) => catalogue.controls.find((c) => c.id === id) as ControlView

/** Mounts a component with what the application gives its pages. */
export function mounted(component: Component, props: Record<string, unknown>) {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:rest(.*)*', component: { template: '<i />' } }],
  })
  return mount(component, {
    props,
    attachTo: document.body,
    global: { plugins: [createPinia(), [PiniaColada, {}], router] },
  })
}

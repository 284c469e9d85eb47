<script setup lang="ts">
/** How the rulebook is worked on, and how it is written in files. */
defineProps<{ topic: string }>()
const example = `layers:
- scope:
    level: "organisation"
  rules:
  - control: "early-entry"
    mode: "bound"
    start: 0
    limit: 10
    importance: 2
    reason: "Not long, and never where it is confidential."
  guarantees:
  - id: "no-stranger-unwatched"
    who: ["link-finder", "number-guesser"]
    rights: ["listen"]
    ceiling: "host-lets-in"
    importance: 4
- scope:
    level: "kind"
    id: "hearing"
  rules: []`
</script>

<template>
  <template v-if="topic === 'rulebook'">
    <h1>The rulebook</h1>
    <p>
      The peg is what new meetings begin with, the bar how far hosts may go, a peg through the bar
      is fixed. A rust dot is a seal: layers below may tighten and never loosen. What is looser than
      the bar is hatched. Boxes are the coming meetings of the layer shown.
    </p>
    <h2>Layers</h2>
    <p>
      The organisation, then units from the root down, then the meeting’s kind. A later rule takes
      the place of an earlier one, whole, unless that one is sealed. What a layer says nothing of is
      drawn faintly, with the layer it comes from.
    </p>
    <h2>What it would do</h2>
    <p>
      The margin counts over the whole register what publishing the draft would change, and whose
      meetings. It counts findings that rules and guarantees decide; other checks look at no rule
      and stay as they are. Below, it says what cannot be meant: rules a seal makes void, starts
      outside their limit, guarantees nothing can keep, values without effect, layers that undo each
      other.
    </p>
    <h2>Drafts</h2>
    <p>
      The first change begins a draft, saved as you go and shared with other wardens. Work on
      different controls merges; where two change the same one, it says so and asks which stands.
    </p>
    <h2>Publishing</h2>
    <p>
      With a reason, at once or for a time; where the organisation asks for it, with a second
      warden’s consent. Scheduled meetings keep their values. An earlier edition is stepped back to
      by publishing it as a new one.
    </p>
  </template>
  <template v-else>
    <h1>The rulebook as a file</h1>
    <p>
      The bundle’s <em>rulebook</em> part by itself, in JSON or YAML, in one order: layers by level
      and id, rules in the order of the table of controls, guarantees by id. Equal rulebooks are
      equal files, so a version control shows what changed and nothing else. A file comes in as a
      draft; faults are told with a JSON Pointer each.
    </p>
    <pre class="value overflow-auto border border-line bg-sheet p-3">{{ example }}</pre>
    <ul class="list-disc pl-5">
      <li>
        <span class="value">suggest</span> has a <em>start</em>; <span class="value">bound</span> a
        <em>start</em> and a <em>limit</em>; <span class="value">fix</span> a <em>value</em>.
      </li>
      <li>
        <em>sealed</em> may be true on bound and fix; <em>importance</em> is 1 to 4, and 2 where it
        is left out.
      </li>
    </ul>
    <p>
      <span class="value">GET /api/rulebook/file?of=edition:3&amp;format=yaml</span> gives one out,
      <span class="value">POST /api/rulebook/file?name=…&amp;format=yaml</span> takes one in.
    </p>
  </template>
</template>

<template>
  <h1>The ledger</h1>
  <p>
    Who did what, when, from where, and what it changed. Every act in any station is an entry,
    written in the same transaction as what it records. Nobody writes to it by hand. Nothing takes
    an entry out but time, where a warden has set one: the cut is an entry itself.
  </p>
  <h2>Reading it</h2>
  <p>
    Narrow it by who, act, days, or words in titles and values. An entry opens beside the list: what
    was asked, and before and after of each meeting, person, group and setting it changed; of tokens
    what was asked. <em>Its history</em> shows everything that touched one thing. Passcodes,
    passwords and tokens are never written down.
  </p>
  <h2>What the chain proves</h2>
  <p>
    An entry carries a hash over the one before it and all it says. <em>Verify</em> works them all
    out again and names the first entry that was altered, is missing, or stands in another order.
    Somebody who writes the whole chain anew, its end included, is not found by the database alone:
    keep the last hash, or an export, somewhere else.
  </p>
</template>

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
    An entry carries a sum over the one before it, all it says and the links that lead to it, made
    with a key that is not in the database. <em>Verify</em> works all of them out again and names
    every entry that was altered, is missing, was added, or stands in another order. An older
    database put back is found by the ends of the chain that were kept elsewhere, where whoever runs
    the server named a file for them. Reading a passcode and taking out a file are entries too.
  </p>
</template>

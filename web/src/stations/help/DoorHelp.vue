<template>
  <h1>Rehearsing the door</h1>
  <p>
    The station Door sends everybody to a meeting’s door at once, before the invitation goes out.
    Choose a meeting, or one that is not saved yet; slide the moment; put a host in or out; lock.
    Each row is a persona of the exposure matrix, or a real person you send by their address.
  </p>
  <h2>How to read a way</h2>
  <ul>
    <li>It ends at a closed bar where somebody is refused.</li>
    <li>It ends at a bar with a notch where they wait until somebody lets them in.</li>
    <li>It runs through where they come straight in.</li>
    <li>Dashed beneath it runs the way with what is changed under “What if…”.</li>
  </ul>
  <p>
    The control that decides a step is named above it; hold the pointer over a step for the
    sentence. Real people come by the app: whoever is invited holds the passcode, others only where
    the link has it in itself.
  </p>
  <h2>What if…</h2>
  <p>
    Change a control from the list, or by the step’s name above the table. The rule is beside each
    value. Nothing is saved until <em>Put it in the meeting</em>.
  </p>
  <h2>What it would take</h2>
  <p>
    The least changes of at most three controls that have somebody come straight in, at least held,
    or refused. First come ways that turn out wrong for nobody else, then cheaper ones that do, with
    whom they hit; and what a host could do with nothing changed.
  </p>
  <p>All of it is in the address, to send on. Hosts rehearse their own meetings.</p>
</template>

<script setup lang="ts">
/** How audits, remedies, requests to hosts and waivers work. */
</script>

<template>
  <h1>Audit and Lookout</h1>
  <p>
    The wall shows how things stand now: every meeting is looked at as soon as it is saved or
    imported, and all of them again when an edition comes into force, when the directory changes and
    once a day. An audit on record keeps how it stood at one time, with the edition and the control
    values it judged, so that it can be read years later.
  </p>
  <h2>Runs</h2>
  <p>
    By hand, at set times, and by itself after each publication; of everything or a part. A run may
    be left, stopped and let go on; when server or database stop in the middle, it goes on where it
    was. A report can be sent with a scheduled one.
  </p>
  <h2>The acts</h2>
  <p>
    <strong>a</strong> applies the least change (pressed twice where several controls change),
    <strong>u</strong> undoes it. <strong>q</strong> asks the host: one message, however many
    findings; they agree with one press, propose something else, or say why. They are reminded, and
    after a set time the change may be applied without them. <strong>w</strong> waives a finding, a
    meeting, or a rule in a unit, until a time and with a reason; it is shown wherever the finding
    would be and ends by itself. <strong>x</strong> chooses several.
  </p>
  <h2>What becomes of a remedy</h2>
  <p>
    It goes through the conference service and is stored only once that has done it. While the
    service is away it is tried again; what is refused says why; what somebody changed meanwhile is
    left alone. A change of passcode or number sends a new invitation.
  </p>
  <h2>Comparing</h2>
  <p>
    New: the meeting was changed, is new, the rulebook changed, a waiver ended, or it has come back.
    Gone: mended, waived, the meeting is over, or the rulebook changed. A baseline is an audit to
    work down from. Only audits of the same scope are compared.
  </p>
  <h2>Reports</h2>
  <p>
    The PDF for management begins with a page in sentences: what stands open, what changed since the
    audit before, what is asked of whom, and the three meetings to look at first. It is for A4 or
    Letter; scheduled audits say which. For programs and auditors there are CSV, JSON, SARIF 2.1.0
    (a check is a rule, a finding a result, a waiver a suppression), and an archive with checksums
    for an outside auditor. Passcodes are in none.
  </p>
</template>

import account from './account.json'
import audit from './audit.json'
import corner from './corner.json'
import count from './count.json'
import door from './door.json'
import field from './field.json'
import floor from './floor.json'
import help from './help.json'
import house from './house.json'
import ledger from './ledger.json'
import lookout from './lookout.json'
import outbox from './outbox.json'
import people from './people.json'
import register from './register.json'
import rulebook from './rulebook.json'
import scheduling from './scheduling.json'
import shell from './shell.json'

export default {
  account,
  audit,
  corner,
  count,
  door,
  field,
  floor,
  help,
  house,
  ledger,
  lookout,
  outbox,
  people,
  register,
  rulebook,
  scheduling,
  shell,
}

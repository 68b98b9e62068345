import { Inquiry } from '../../places/inquiry/inquiry'
import { answerOf, server } from '../../wire/client'

/** Why the computer does not see a board. */
export function Unseen() {
  return <Inquiry title="Why does the computer not see it?" name={['unseen']} ask={(given) => answerOf(server.POST('/api/unseen', { body: { given } }))} />
}

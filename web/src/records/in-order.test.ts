import { numberColumn } from '@dime-gate/core/table/number-column'
import { inOrder, type Order } from './in-order'

const column = numberColumn(['5', null, '-3', '5', '0', { unreadable: 'n/a' }])
const places = (order: Order) => [...inOrder(Uint32Array.of(0, 1, 2, 3, 4, 5), order, column)]

test.each<[Order, number[]]>([['table', [0, 1, 2, 3, 4, 5]], ['rising', [2, 4, 0, 3, 1, 5]], ['falling', [0, 3, 4, 2, 1, 5]]])('%s', (order, expected) => expect(places(order)).toEqual(expected))

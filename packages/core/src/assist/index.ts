export { type AssistantInterface, assistantInterfaces, type AssistantOrder, type AssistantPiece } from './interfaces.js';
export { type Allowance, amountWords, costOf, monthOf, type Prices, roomFor, type Room, type Tokens, usedOf } from './budget.js';

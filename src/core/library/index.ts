// Scripts that come with the app, in groups that follow the day. Each is one to begin with: copied, changed, put on a key.

/** One ready script. */
export interface Ready {
  name: string;
  text: string;
  /** When it is used. */
  use: string;
  /** What it risks, or leaves to the trader. */
  risk: string;
}

const HALVES = '\n  target 1R for half\n  target 2R for half\n  breakeven after 1.3R';

/** The library. */
export const READY: readonly { group: string; scripts: readonly Ready[] }[] = [
  {
    group: 'Get in long',
    scripts: [
      {
        name: 'Buy 1R through the ask',
        text: `buy risk 1R at usual through extended\n  stop usual${HALVES}`,
        use: 'The move is under way and you want to be in now.',
        risk: 'One risk unit; it may fill up to the usual distance above the ask.',
      },
      {
        name: 'Buy half an R through the ask',
        text: `buy risk 0.5R at usual through extended\n  stop usual${HALVES}`,
        use: 'A first piece, or a stock that moves too fast for a whole one.',
        risk: 'Half a risk unit.',
      },
      {
        name: 'Buy 1R at the bid',
        text: 'buy risk 1R at bid\n  stop 30c\n  target 2R',
        use: 'A calm pullback: you wait for somebody to sell to you.',
        risk: 'One risk unit; it may not fill, or fill just as the price gives way.',
      },
      {
        name: 'Buy 1R halfway',
        text: 'buy risk 1R at mid hidden\n  stop 30c\n  target 2R',
        use: 'A wide spread, and there is time.',
        risk: 'One risk unit; regular session only, and it may not fill.',
      },
      {
        name: 'Buy back at VWAP',
        text: 'buy risk 1R at vwap + 2c\n  stop at day low - 2c\n  target 2R',
        use: 'A strong stock comes back to its average price.',
        risk: 'One risk unit to the low of the day.',
      },
      {
        name: 'Buy for a tenth of the power',
        text: 'buy 10% of power at ask + 3c extended\n  stop 2%\n  target 4%',
        use: 'You think in money and percent.',
        risk: 'Two percent of what it costs.',
      },
      {
        name: 'Add as much again',
        text: 'add all at ask + 3c extended',
        use: 'The trade works and you want it twice as large.',
        risk: 'Doubles the position; the new shares come under the exits that are there.',
      },
    ],
  },
  {
    group: 'Get in short',
    scripts: [
      {
        name: 'Short 1R through the bid',
        text: `short risk 1R at usual through extended\n  stop usual${HALVES}`,
        use: 'The move turns and you want to be in now.',
        risk: 'One risk unit; a squeeze can go far beyond the stop.',
      },
      {
        name: 'Short 1R at the ask',
        text: 'short risk 1R at ask\n  stop 30c\n  target 2R',
        use: 'Into strength: somebody buys from you.',
        risk: 'One risk unit; it may fill just as the price runs on.',
      },
      {
        name: 'Short up at VWAP',
        text: 'short risk 1R at vwap - 2c\n  stop at day high + 2c\n  target 2R',
        use: 'A weak stock comes back up to its average price.',
        risk: 'One risk unit to the high of the day.',
      },
      {
        name: 'Set shares aside to short',
        text: 'locate 500',
        use: 'The stock is hard to borrow; before the open.',
        risk: 'A fee, whether you short or not.',
      },
    ],
  },
  {
    group: 'Breakouts and breakdowns',
    scripts: [
      {
        name: 'Over the pre-market high',
        text: `buy risk 1R above premarket high + 2c limit 10c beyond\n  stop 30c${HALVES}`,
        use: 'Set before it breaks; it goes by itself.',
        risk: 'One risk unit; it does not chase more than ten cents.',
      },
      {
        name: 'Over the high of the day',
        text: `buy risk 1R above day high + 2c limit 10c beyond\n  stop 30c${HALVES}`,
        use: 'A stock that tests its high again.',
        risk: 'One risk unit; breaks of a high fail often.',
      },
      {
        name: 'Over the last minute',
        text: `buy risk 1R above 1m high + 1c limit 6c beyond\n  stop beyond 1m candle by 2c${HALVES}`,
        use: 'The first new high after a small pullback.',
        risk: 'One risk unit to the low of that minute.',
      },
      {
        name: 'Over the first five minutes',
        text: `buy risk 1R above opening range 5m high + 2c limit 10c beyond\n  stop beyond opening range 5m by 2c\n  target 1R for half\n  target 2R for half`,
        use: 'After 09:35, when the first range holds.',
        risk: 'One risk unit to the other side of the range.',
      },
      {
        name: 'Under the pre-market low',
        text: `short risk 1R below premarket low - 2c limit 10c beyond\n  stop 30c${HALVES}`,
        use: 'A gap that gives way.',
        risk: 'One risk unit.',
      },
      {
        name: 'Under the last minute',
        text: `short risk 1R below 1m low - 1c limit 6c beyond\n  stop beyond 1m candle by 2c${HALVES}`,
        use: 'The first new low after a small bounce.',
        risk: 'One risk unit to the high of that minute.',
      },
      {
        name: 'Whichever side breaks',
        text: 'one of\n  buy 200 above day high + 2c\n    stop 30c\n  short 200 below day low - 2c\n    stop 30c',
        use: 'A tight range; you do not care which way.',
        risk: 'Thirty cents a share on the side that goes first; a false break costs it.',
      },
    ],
  },
  {
    group: 'Size',
    scripts: [
      { name: 'Size 100', text: 'size 100', use: 'Loads the ticket.', risk: 'None by itself.' },
      { name: 'Size 500', text: 'size 500', use: 'Loads the ticket.', risk: 'None by itself.' },
      {
        name: 'Size 1R',
        text: 'size risk 1R',
        use: 'The ticket sizes by its stop.',
        risk: 'None by itself.',
      },
      { name: 'Size up 100', text: 'size up 100', use: 'A little more.', risk: 'None by itself.' },
      { name: 'Size down 100', text: 'size down 100', use: 'A little less.', risk: 'None by itself.' },
    ],
  },
  {
    group: 'Scale out',
    scripts: [
      {
        name: 'Half off at the ask',
        text: 'close half at ask',
        use: 'Into strength, when you are long.',
        risk: 'It may not fill.',
      },
      {
        name: 'Half off now',
        text: 'close half at usual through extended',
        use: 'You want it off, whatever the spread.',
        risk: 'Costs the spread.',
      },
      {
        name: 'A quarter off at the ask',
        text: 'close quarter at ask',
        use: 'Small pieces on the way.',
        risk: 'It may not fill.',
      },
      {
        name: 'Half off, stop to breakeven',
        text: 'close half at ask\nmove stop to breakeven',
        use: 'The first target is there.',
        risk: 'The rest can no longer lose, but for slippage.',
      },
      {
        name: 'Half at 1R, half at 2R',
        text: 'attach\n  target 1R for half\n  target 2R for half',
        use: 'You are in without targets.',
        risk: 'Needs a stop: R is measured from it.',
      },
    ],
  },
  {
    group: 'Move the stop',
    scripts: [
      {
        name: 'Stop to breakeven',
        text: 'move stop to breakeven',
        use: 'The trade has paid for itself.',
        risk: 'A small pullback takes you out.',
      },
      { name: 'Stop 5c closer', text: 'move stop by 5c', use: 'Step by step.', risk: 'Closer to the noise.' },
      {
        name: 'Stop under the last minute',
        text: 'move stop beyond 1m candle by 1c',
        use: 'The trade steps from candle to candle.',
        risk: 'Closer to the noise.',
      },
      {
        name: 'Stop to VWAP',
        text: 'move stop to vwap',
        use: 'The reason for the trade is the average price.',
        risk: 'Where everybody looks.',
      },
    ],
  },
  {
    group: 'Trail',
    scripts: [
      {
        name: 'Trail 20c',
        text: 'attach\n  trail 20c',
        use: 'A fast move that you want to ride.',
        risk: 'Gives back twenty cents from the best price.',
      },
      {
        name: 'Trail half an ATR after 1R',
        text: 'attach\n  trail 0.5 atr after 1R',
        use: 'A day that trends.',
        risk: 'Gives back half a day’s range.',
      },
      {
        name: 'Trail each minute',
        text: 'attach\n  trail beyond 1m candle by 2c',
        use: 'Candle by candle, by itself.',
        risk: 'The first candle against you takes you out.',
      },
    ],
  },
  {
    group: 'Get out',
    scripts: [
      {
        name: 'Flatten',
        text: 'flatten',
        use: 'Out of this symbol, everything canceled.',
        risk: 'Goes at market.',
      },
      {
        name: 'Flatten everything',
        text: 'flatten everything',
        use: 'Something is wrong.',
        risk: 'Goes at market, in every symbol.',
      },
      {
        name: 'Close all at the ask',
        text: 'close all at ask',
        use: 'Out in calm, when you are long.',
        risk: 'It may not fill.',
      },
      {
        name: 'Close all now',
        text: 'close all at usual through extended',
        use: 'Out, but not at any price.',
        risk: 'Costs the spread.',
      },
      {
        name: 'Reverse',
        text: 'reverse\n  stop 30c',
        use: 'You were wrong, and the other side is right.',
        risk: 'A new trade of the same size.',
      },
      {
        name: 'Out by 15:50',
        text: 'attach\n  out by 15:50',
        use: 'Nothing over the night.',
        risk: 'None by itself.',
      },
    ],
  },
  {
    group: 'Cancel',
    scripts: [
      {
        name: 'Cancel last',
        text: 'cancel last',
        use: 'The newest order of the focus.',
        risk: 'Never an exit.',
      },
      {
        name: 'Cancel entries',
        text: 'cancel entries',
        use: 'No new shares in the focus.',
        risk: 'Exits stay.',
      },
      {
        name: 'Cancel targets',
        text: 'cancel targets',
        use: 'You want to ride it.',
        risk: 'The stop stays.',
      },
      {
        name: 'Cancel symbol',
        text: 'cancel symbol',
        use: 'Entries and targets of the focus.',
        risk: 'Stops stay.',
      },
      {
        name: 'Cancel everything',
        text: 'cancel everything',
        use: 'Entries and targets of all symbols.',
        risk: 'Stops stay.',
      },
    ],
  },
  {
    group: 'Wait for',
    scripts: [
      {
        name: 'A close over the pre-market high',
        text: 'when 3m close > premarket high until 11:00: buy risk 1R at usual through\n  stop 30c\n  target 2R',
        use: 'You want to see it hold before you buy.',
        risk: 'One risk unit, at a price that is not known yet.',
      },
      {
        name: 'Back over VWAP',
        text: 'when last crosses above vwap until 11:00: buy risk 1R at usual through\n  stop 30c\n  target 2R',
        use: 'A reclaim.',
        risk: 'One risk unit; it may cross many times, and fires once.',
      },
      {
        name: 'Half off at 2R',
        text: 'when gain >= 2R: close half at bid',
        use: 'While you look elsewhere.',
        risk: 'It sells at the bid of that moment.',
      },
      {
        name: 'Send what is staged',
        text: 'send staged',
        use: 'What you prepared for the focus goes.',
        risk: 'That of the order.',
      },
    ],
  },
  {
    group: 'Tell me',
    scripts: [
      {
        name: 'Alert 10c above',
        text: 'alert at last + 10c',
        use: 'You want to look again there.',
        risk: 'None.',
      },
      {
        name: 'Alert at the pointer',
        text: 'alert at cursor',
        use: 'While you point at the chart.',
        risk: 'None.',
      },
      { name: 'Alert on a halt', text: 'alert on halt', use: 'A stock that may be paused.', risk: 'None.' },
      {
        name: 'Tell of any gap on a small float',
        text: 'alert any when gap > 8% and float < 20M',
        use: 'Pre-market.',
        risk: 'None.',
      },
    ],
  },
  {
    group: 'See',
    scripts: [
      {
        name: 'Extended hours on and off',
        text: 'toggle extended',
        use: 'The chart shows the hours around the session, or not.',
        risk: 'None.',
      },
      {
        name: 'Next of the list',
        text: 'focus next',
        use: 'Through the shortlist.',
        risk: 'Keys act on the new focus.',
      },
      {
        name: 'Previous of the list',
        text: 'focus previous',
        use: 'Back through the shortlist.',
        risk: 'Keys act on the new focus.',
      },
    ],
  },
];

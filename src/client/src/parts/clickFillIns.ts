/** What short links fill into a value at each click, with what it says. */
export const clickFillIns: [fillIn: string, says: string][] = [
  ['@{click.country}', 'country of the click'],
  ['@{click.device}', 'kind of device'],
  ['@{click.date}', 'day of the click'],
  ['@{click.slug}', 'slug of the short link'],
  ['@{click.referrer}', 'host the click came from'],
  ['@{click.id}', 'id of the click, where the link gives one'],
];

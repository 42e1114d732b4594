// Which texts hold which words, and how much a word counts in each: an inverted index in flat arrays, fast enough to be
// asked at every keystroke. A term finds words that are equal or begin with it; only where there is none, words that
// are one or two letters away.

interface Posting {
  readonly texts: number[];
  readonly weights: number[];
}

/** Equal words count in full, a word that only begins with the term by the share that was typed, a likely slip least. */
const PREFIX_LEAST = 0.4;
const PREFIX_MORE = 0.5;
const SLIP = 0.3;
/** Below this length every other word would be one letter away. */
const SLIP_FROM = 4;
const TWO_SLIPS_FROM = 8;

/**
 * Which texts hold which words, and how well. Scores add up over the terms of a question and are comparable within one
 * question only.
 */
export class WordIndex {
  private readonly postings = new Map<string, Posting>();
  private sorted: readonly string[] | undefined;
  private count = 0;

  /** Adds a text as words with their weights; answers with its number. */
  add(words: Iterable<readonly [word: string, weight: number]>): number {
    const text = this.count;
    this.count += 1;
    const best = new Map<string, number>();
    for (const [word, weight] of words) best.set(word, Math.max(weight, best.get(word) ?? 0));
    for (const [word, weight] of best) {
      let posting = this.postings.get(word);
      if (!posting) this.postings.set(word, (posting = { texts: [], weights: [] }));
      posting.texts.push(text);
      posting.weights.push(weight);
    }
    this.sorted = undefined;
    return text;
  }

  /** A score for every text; 0 where a term is missing. */
  score(terms: readonly string[]): Float32Array {
    const total = new Float32Array(this.count);
    terms.forEach((term, at) => {
      const own = this.scoreTerm(term);
      for (let text = 0; text < total.length; text += 1) {
        const found = own[text] ?? 0;
        const before = total[text] ?? 0;
        total[text] = found === 0 || (at > 0 && before === 0) ? 0 : before + found;
      }
    });
    return total;
  }

  private scoreTerm(term: string): Float32Array {
    const scores = new Float32Array(this.count);
    const words = this.sortedWords();
    let found = false;
    for (let at = firstAtMinimum(words, term); words[at]?.startsWith(term); at += 1) {
      const word = words[at] ?? '';
      const quality = word === term ? 1 : PREFIX_LEAST + (PREFIX_MORE * term.length) / word.length;
      this.spread(word, quality, scores);
      found = true;
    }
    if (found || term.length < SLIP_FROM || /\d/.test(term)) return scores;
    const most = term.length < TWO_SLIPS_FROM ? 1 : 2;
    for (const word of words) {
      const slips = slipsBetween(term, word, most);
      if (slips <= most) this.spread(word, SLIP / slips, scores);
    }
    return scores;
  }

  private spread(word: string, quality: number, scores: Float32Array): void {
    const posting = this.postings.get(word);
    if (!posting) return;
    const { texts, weights } = posting;
    for (let at = 0; at < texts.length; at += 1) {
      const text = texts[at] ?? 0;
      const score = (weights[at] ?? 0) * quality;
      if (score > (scores[text] ?? 0)) scores[text] = score;
    }
  }

  private sortedWords(): readonly string[] {
    this.sorted ??= [...this.postings.keys()].sort();
    return this.sorted;
  }
}

function firstAtMinimum(words: readonly string[], wanted: string): number {
  let [low, high] = [0, words.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((words[middle] ?? '') < wanted) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * Letters wrong, missing, too many or exchanged with their neighbour (optimal string alignment); more than `most` is
 * told as `most + 1`. The beginning of a longer word counts as the word, as for the other terms.
 */
export function slipsBetween(term: string, word: string, most: number): number {
  if (word.length < term.length - most) return most + 1;
  const width = Math.min(word.length, term.length + most);
  let before: number[] = [];
  let row = Array.from({ length: width + 1 }, (_, at) => at);
  for (let at = 1; at <= term.length; at += 1) {
    const next = [at];
    for (let place = 1; place <= width; place += 1) {
      const same = term[at - 1] === word[place - 1] ? 0 : 1;
      let minimum = Math.min((row[place] ?? 0) + 1, (next[place - 1] ?? 0) + 1, (row[place - 1] ?? 0) + same);
      if (at > 1 && place > 1 && term[at - 1] === word[place - 2] && term[at - 2] === word[place - 1])
        minimum = Math.min(minimum, (before[place - 2] ?? 0) + 1);
      next.push(minimum);
    }
    if (Math.min(...next) > most) return most + 1;
    before = row;
    row = next;
  }
  const whole = Math.min(...row.slice(Math.max(0, term.length - most)));
  return Math.min(whole, most + 1);
}

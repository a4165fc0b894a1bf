/**
 * Numbers of the places where something is joined on layer 2. One that has a name keeps its number for as long as the record is
 * held, whatever is drawn between them: what is joined there need not be built anew when a cable is pulled.
 */
export class NodeNumbers {
  private readonly numbers = new Map<string, number>();
  private last = 0;

  of(key: string): number {
    let number = this.numbers.get(key);
    if (number === undefined) this.numbers.set(key, (number = this.alone()));
    return number;
  }

  find = (key: string): number | undefined => this.numbers.get(key);

  /** One where nothing else is. */
  alone(): number {
    return (this.last += 1);
  }
}

import './families.css';

export interface MemberView {
  readonly sku: string;
  readonly axes: Readonly<Record<string, string>>;
  readonly price: string;
  readonly stock: string;
  readonly overrides: readonly string[];
}

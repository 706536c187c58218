import { useState } from 'react';
import { OBTAINED, type KeptKit, type Obtained } from '@/core/sitting/kits/keptKit';
import { yearIn } from '@/core/sitting/kits/kitsTable';
import { Labelled, TextInput } from '@/ui/controls/fields';
import { sameWords, Select } from '@/ui/controls/Select';

const HOW = [['', 'not said'] as const, ...sameWords(OBTAINED)];

/** What a kit is called, how it came and what it cost. */
export function KitFacts({ kit, onChange }: { kit: KeptKit; onChange: (kit: KeptKit) => void }) {
  const [amount, setAmount] = useState(kit.price ? String(kit.price.amount) : '');
  const [currency, setCurrency] = useState(kit.price?.currency ?? '');
  const [year, setYear] = useState(kit.year === undefined ? '' : String(kit.year));
  const badYear = yearIn(year) === null;
  const bad = amount.trim() !== '' && !(Number(amount.replace(',', '.')) >= 0);

  function setPrice(amountText: string, currencyText: string) {
    setAmount(amountText);
    setCurrency(currencyText);
    const value = Number(amountText.replace(',', '.'));
    const { price: _, ...rest } = kit;
    const known = amountText.trim() !== '' && value >= 0;
    onChange(known ? { ...rest, price: { amount: value, currency: currencyText.trim() || 'EUR' } } : (rest as KeptKit));
  }

  return (
    <>
      <div className="flex gap-3 flex-wrap items-end mt-3">
        <Labelled words="Name">
          <TextInput
            className="w-[190px]"
            value={kit.name ?? ''}
            onChange={({ target }) => onChange({ ...kit, name: target.value })}
          />
        </Labelled>
        <Labelled words="Maker">
          <TextInput
            className="w-[160px]"
            value={kit.maker ?? ''}
            onChange={({ target }) => onChange({ ...kit, maker: target.value })}
          />
        </Labelled>
        <Labelled words="How obtained">
          <Select<Obtained | ''>
            className="w-[120px]"
            value={kit.obtained ?? ''}
            options={HOW}
            onChange={(chosen) => onChange({ ...kit, obtained: chosen === '' ? undefined : chosen })}
          />
        </Labelled>
        <Labelled words="Year">
          <TextInput
            className="w-[70px] text-right"
            inputMode="numeric"
            maxLength={4}
            invalid={badYear}
            value={year}
            onChange={({ target }) => {
              setYear(target.value);
              const read = yearIn(target.value);
              if (read !== null) onChange({ ...kit, year: read });
            }}
          />
        </Labelled>
        <Labelled words="Thread or mount">
          <TextInput
            className="w-[130px]"
            placeholder="67 mm"
            maxLength={100}
            value={kit.mount ?? ''}
            onChange={({ target }) => onChange({ ...kit, mount: target.value === '' ? undefined : target.value })}
          />
        </Labelled>
        <Labelled words="Price of the kit">
          <TextInput
            className="w-[96px] text-right"
            invalid={bad}
            value={amount}
            onChange={({ target }) => setPrice(target.value, currency)}
          />
        </Labelled>
        <Labelled words="Currency">
          <TextInput
            className="w-[70px]"
            value={currency}
            placeholder="EUR"
            maxLength={8}
            onChange={({ target }) => setPrice(amount, target.value)}
          />
        </Labelled>
      </div>
      {badYear && <p className="text-warning mt-1">Write the year with four digits; it is not kept like this.</p>}
      {bad && <p className="text-warning mt-1">The kit’s price is a number; it is not kept like this.</p>}
    </>
  );
}

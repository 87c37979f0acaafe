type Props = {
  label: string;
  placeholder: string;
  value: string;
  onChange: (value: string) => void;
};

export function SearchBox({ label, placeholder, value, onChange }: Props) {
  return (
    <label>
      <span className="sr-only">{label}</span>
      <input
        type="search"
        className="line-input w-72"
        placeholder={placeholder}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

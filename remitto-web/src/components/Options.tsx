/** The choices of a select, by id. */
export function ById({ of }: { of?: { id: number; name: string }[] }) {
  return (of ?? []).map((one) => (
    <option key={one.id} value={one.id}>
      {one.name}
    </option>
  ));
}

/** The choices of a select, by name, called by their title. */
export function ByTitle({ of }: { of?: { name: string; title: string }[] }) {
  return (of ?? []).map((one) => (
    <option key={one.name} value={one.name}>
      {one.title}
    </option>
  ));
}

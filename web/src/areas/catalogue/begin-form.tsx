// A form begun with nothing in it but its name and its purpose.
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";

export function BeginForm() {
  const mayEdit = useMay("edit_draft");
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [purpose, setPurpose] = useState("");
  const navigate = useNavigate();
  const queries = useQueryClient();
  const begin = useMutation({
    mutationFn: () => answer(client.POST("/api/forms", { body: { name, purpose } })),
    onSuccess: (form) => {
      queries.invalidateQueries({ queryKey: ["forms"] });
      navigate(`/forms/${form.key}/fields`);
    },
  });
  if (!mayEdit) return null;
  function submit(event: FormEvent) {
    event.preventDefault();
    begin.mutate();
  }
  return (
    <>
      <Button look="solid" onClick={() => setOpen(true)}>
        <Plus size={18} aria-hidden="true" /> Begin a form…
      </Button>
      <Sheet title="Begin a form" open={open} onOpenChange={setOpen}>
        <form onSubmit={submit}>
          <label className="block">
            Name
            <input
              className="line-input mt-1 block w-full"
              required
              spellCheck
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </label>
          <label className="mt-3 block">
            What it is for
            <textarea
              className="line-input mt-1 block w-full"
              rows={2}
              spellCheck
              value={purpose}
              onChange={(event) => setPurpose(event.target.value)}
            />
          </label>
          <div className="mt-3">
            <Trouble error={begin.error} />
          </div>
          <Button look="solid" type="submit" className="mt-3" disabled={begin.isPending}>
            Begin
          </Button>
        </form>
      </Sheet>
    </>
  );
}

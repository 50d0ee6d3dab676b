import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { ChoiceField, DateField, NumberField, TextField } from "../../parts/AutoField";
import { coolerKinds } from "./coolerKinds";

const settings = [
  ["office", "office"],
  ["home", "home"],
  ["pets-or-smoke", "pets or smoke"],
  ["workshop-dust", "workshop dust"],
  ["flour-dust", "flour dust"],
  ["cupboard", "in a cupboard"],
] as const;

const origins = [
  ["complete", "bought complete"],
  ["self-built", "self-built"],
] as const;

/** Who brought what, and what they noticed. */
export function Intake({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const shared = { job, actions };
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
      <TextField {...shared} name="owner" label="Owner" />
      <TextField {...shared} name="contact" label="Contact" placeholder="phone, mail, when to call" />
      <div className="sm:col-span-2">
        <TextField
          {...shared}
          name="machine"
          label="Machine"
          lines={2}
          placeholder="what it is, cooler, age, where it stands"
        />
      </div>
      <div className="sm:col-span-2">
        <TextField
          {...shared}
          name="noticed"
          label="What the owner noticed"
          lines={2}
          placeholder="in the owner’s words"
        />
      </div>
      <NumberField {...shared} name="temperatureLimitC" label="Processor’s temperature limit" unit="°C" />
      <NumberField {...shared} name="ratedPowerW" label="Processor’s rated power" unit="W" />
      <NumberField {...shared} name="roomC" label="Room" unit="°C" />
      <TextField {...shared} name="serial" label="Serial number" />
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name="coolerKind" label="Cooler" options={coolerKinds} />
      </div>
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name="setting" label="Where it stands" options={settings} />
      </div>
      <ChoiceField {...shared} name="origin" label="Bought or built" options={origins} />
      <DateField {...shared} name="builtOn" label="When it was built or bought" />
    </div>
  );
}

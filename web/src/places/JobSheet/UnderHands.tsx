import { Link } from "react-router";
import type { JobSheet } from "../../api/client";
import { buttonLook } from "../../parts/Button";

/** A repair that is under way leads back to its step from wherever something unexpected has led. */
export function UnderHands({ job }: { job: JobSheet }) {
  const { plan } = job;
  return plan?.step != null && job.currentStep === "repair" ? (
    <p
      role="status"
      className="mt-3 mb-0 flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 border-teal bg-card py-2 pr-3 pl-4"
    >
      <span className="min-w-0 grow">
        <strong>{plan.title}</strong> is under way, step {plan.at} of {plan.count}: {plan.step}
      </span>
      <Link to={`/jobs/${job.id}/repair`} className={buttonLook("main")}>
        Go on with it
      </Link>
    </p>
  ) : null;
}

"""What could mend a finding: heat, water."""

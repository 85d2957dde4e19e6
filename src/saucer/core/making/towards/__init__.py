"""Steps that bring pictures towards the colours of another one."""

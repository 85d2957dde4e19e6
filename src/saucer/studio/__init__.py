"""The Django project: one app per noun. models.py says what is stored, rules.py what may happen, api.py speaks HTTP."""

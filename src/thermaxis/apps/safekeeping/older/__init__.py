"""How a database of before this version's first migrations is brought to them: one folder an application.

Nothing new is added here. `manage.py migrate` goes this way first where a database has begun it.
"""

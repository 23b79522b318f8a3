from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "thermaxis.apps.accounts"
    label = "accounts"

    def ready(self) -> None:
        from django.contrib.auth.signals import user_logged_in
        from django.core.signals import request_started

        from thermaxis.apps.accounts.database import reopen_if_replaced
        from thermaxis.apps.accounts.pace import PACE
        from thermaxis.apps.accounts.sessions import remember
        from thermaxis.core.breath import at_each_breath

        request_started.connect(reopen_if_replaced, dispatch_uid="reopen_if_replaced")
        user_logged_in.connect(remember, dispatch_uid="remember_session")
        at_each_breath(PACE.breath)

from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "thermaxis.apps.accounts"
    label = "accounts"

    def ready(self) -> None:
        from django.core.signals import request_started

        from thermaxis.apps.accounts.database import reopen_if_replaced

        request_started.connect(reopen_if_replaced, dispatch_uid="reopen_if_replaced")

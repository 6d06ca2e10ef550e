from flask import Flask, request

from quayside.booking.service import BookingService
from quayside.domain import Berth, Booking


def create(service: BookingService) -> Flask:
    app = Flask("quayside")

    @app.post("/bookings")
    def book() -> str:
        form = request.form
        service.book(Booking(Berth(int(form["berth"]), 3.0), form["vessel"], form["from"], form["to"]))
        return "booked"

    return app

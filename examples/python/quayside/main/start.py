from quayside.booking.service import BookingService
from quayside.desk import app
from quayside.main import registry

if __name__ == "__main__":
    app.create(BookingService(registry.bookings())).run()

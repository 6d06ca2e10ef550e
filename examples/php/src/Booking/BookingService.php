<?php

declare(strict_types=1);

namespace Quayside\Booking;

use InvalidArgumentException;
use Quayside\Domain\{Booking, Bookings};

final class BookingService
{
    public function __construct(private readonly Bookings $bookings)
    {
    }

    public function book(Booking $booking): void
    {
        if ($booking->nights() < 1) {
            throw new InvalidArgumentException('a booking is for one night at least');
        }
        $this->bookings->add($booking);
    }

    /** @return Booking[] */
    public function of(string $vessel): array
    {
        return $this->bookings->of($vessel);
    }
}

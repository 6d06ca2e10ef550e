<?php

declare(strict_types=1);

namespace Quayside\Domain;

interface Bookings
{
    public function add(Booking $booking): void;

    /** @return Booking[] */
    public function of(string $vessel): array;
}

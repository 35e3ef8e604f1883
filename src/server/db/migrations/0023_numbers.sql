CREATE TABLE `number_block` (
	`id` int AUTO_INCREMENT NOT NULL,
	`body` varchar(13) NOT NULL,
	`count` int NOT NULL,
	CONSTRAINT `number_block_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `number_given` (
	`gtin` varchar(14) NOT NULL,
	`sku` varchar(190) NOT NULL,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `number_given_gtin` PRIMARY KEY(`gtin`)
);
--> statement-breakpoint
CREATE INDEX `number_given_sku` ON `number_given` (`sku`);